import { check, type Check } from '../check/check.js';
import { strengthOf, TELLING_AREA } from '../leaks/telling.js';
import type { Watched } from '../leaks/leak.js';
import { at, count, counted } from '../numbers.js';
import { crossingCheck } from '../quality/checks.js';
import { crossingGroups } from '../quality/crossing.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { columnNamed, type Table } from '../table/table.js';
import type { SplitPlan } from './plan.js';
import { splitRows } from './split.js';
import type { UsableRows } from './usable.js';

/** Whether any group stands in two parts, and what a split by rows would do. */
export function groupCheck(
  table: Table,
  roles: Roles,
  plan: SplitPlan,
  used: UsableRows,
  parts: Int8Array,
): Check[] {
  const name = plan.group ?? roles.group;
  if (name === null) return [];
  const groups = labelsOf(columnNamed(table, name));
  const crossing = crossingGroups(groups.codes, parts);
  const total = new Set(groups.codes.filter((code, row) => code >= 0 && used.usable[row] === 1)).size;
  if (crossing.size > 0) {
    const examples = [...crossing].slice(0, 5).map((code) => at(groups.labels, code));
    return [crossingCheck({ column: name, groups: total, crossing: crossing.size, examples })];
  }
  const random = crossingGroups(groups.codes, splitRows(table, { ...plan, group: null }, used.usable)).size;
  return [
    check('groups', 'holds', `${counted(total, 'value')} of ${name}, none parted`, {
      measured: `a split by rows would part ${random === total ? 'all ' : ''}${count(random)}`,
    }),
  ];
}

/** Numbers that alone rank the two classes almost perfectly. */
export function tellingChecks(watched: Omit<Watched, 'profiles'>): Check[] {
  if (watched.roles.task !== 'binary') return [];
  return watched.features.flatMap((column) => {
    const strength = column.kind === 'number' ? strengthOf(column, watched)?.strength : undefined;
    if (strength === undefined || !(strength >= TELLING_AREA)) return [];
    return [
      check('telling', 'fails', `${column.name} gives the answer away`, {
        measured: `alone it ranks ${watched.roles.target} with area ${strength.toFixed(2)}`,
        expected: `below ${TELLING_AREA}; if it is known only after the outcome, withhold it at Look`,
      }),
    ];
  });
}
