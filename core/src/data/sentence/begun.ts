import type { Roles } from '../table/roles.js';
import type { ColumnInfo, PlanValue } from './parameter.js';
import { newPlan, type Plan, type SentenceKind } from './sentence.js';

/** A plan as it is begun, with the columns that the roles suggest for parameters of these names. */
export function begunPlan(kind: SentenceKind, columns: readonly ColumnInfo[], roles: Roles): Plan {
  const plan = newPlan(kind, columns);
  const suggested: Record<string, PlanValue | null> = {
    stratify: roles.target,
    group: roles.group,
    time: roles.time,
    identifier: roles.identifier,
    column: roles.group,
  };
  const values = Object.entries(plan.values).map(([key, value]): [string, PlanValue] => [
    key,
    suggested[key] ?? value,
  ]);
  return { ...plan, values: Object.fromEntries(values) };
}
