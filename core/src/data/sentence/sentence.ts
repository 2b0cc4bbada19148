import { SieveError } from '../../foundation/errors.js';
import {
  checkValue,
  startOf,
  type ColumnInfo,
  type Parameters,
  type PlanValue,
  type ValuesOf,
} from './parameter.js';

/** Something planned: its kind, and the value of each of the kind's parameters by its key. */
export interface Plan {
  readonly kind: string;
  readonly values: Readonly<Record<string, PlanValue>>;
}

/**
 * A kind of plan that is written as one sentence. What takes its values is a method, so that a kind with parameters of
 * its own is one of all kinds without a cast.
 */
export interface SentenceKind<P extends Parameters = Parameters> {
  readonly key: string;
  /** As a menu has it. */
  readonly title: string;
  /** What it does and where choices come from, for the documentation. */
  readonly about: string;
  readonly parameters: P;
  /** The plan as a sentence, in which `{key}` stands for the control of a parameter. */
  sentence(values: ValuesOf<P>): string;
}

/**
 * The kind of a plan in a registry.
 *
 * @param what what its kinds are called
 * @throws SieveError `plan-kind` for one that is not there
 */
export function kindIn<K extends SentenceKind>(kinds: readonly K[], key: string, what: string): K {
  const kind = kinds.find((one) => one.key === key);
  if (!kind) throw new SieveError('plan-kind', `There is no ${what} “${key}”.`, { field: 'kind' });
  return kind;
}

/** A plan of a kind as it is begun. */
export const newPlan = (kind: SentenceKind, columns: readonly ColumnInfo[]): Plan => ({
  kind: kind.key,
  values: Object.fromEntries(
    Object.entries(kind.parameters).map(([key, parameter]): [string, PlanValue] => [
      key,
      startOf(parameter, columns),
    ]),
  ),
});

/** The parameters that a plan's sentence shows, which are those that count. */
export const shownParameters = (kind: SentenceKind, { values }: Plan): readonly string[] =>
  [...kind.sentence(values).matchAll(/\{(\w+)\}/g)].map(([, key]) => key ?? '');

/** The values that count: those of the parameters that the sentence shows. */
export function shownValues(kind: SentenceKind, plan: Plan): Record<string, PlanValue> {
  const shown = new Set(shownParameters(kind, plan));
  return Object.fromEntries(Object.entries(plan.values).filter(([key]) => shown.has(key)));
}

/** The values of a plan as its kind's parameters have them, which `checkPlanned` has made sure of. */
export const valuesOf = <P extends Parameters>(_kind: SentenceKind<P>, values: Plan['values']): ValuesOf<P> =>
  values as ValuesOf<P>;

/**
 * Makes sure that every parameter of a plan's sentence has a value that it takes, and that nothing else is said.
 *
 * @throws SieveError `plan-value`, `no-such-column`, with the key of the parameter as its field
 */
export function checkPlanned(kind: SentenceKind, plan: Plan, columns: readonly ColumnInfo[]): void {
  const all = Object.entries(kind.parameters);
  const stray = Object.keys(plan.values).find((key) => !(key in kind.parameters));
  if (stray !== undefined)
    throw new SieveError('plan-value', `${kind.title} has no setting “${stray}”.`, { field: stray });
  // A choice is looked at first: it says which other parameters count.
  for (const [key, parameter] of all)
    if (parameter.type === 'choice') checkValue(key, parameter, plan.values[key], columns);
  const shown = new Set(shownParameters(kind, plan));
  for (const [key, parameter] of all) {
    if (shown.has(key) && parameter.type !== 'choice') checkValue(key, parameter, plan.values[key], columns);
  }
}
