import { SieveError } from '../errors.js';
import type { Table } from '../table/table.js';
import { checkValue, startOf, type Kinded, type StepValue } from './parameter.js';
import type { Step, StepKind } from './step.js';
import { bins } from './steps/bins.js';
import { dummies, rareCategories } from './steps/categories.js';
import { dropColumns } from './steps/columns.js';
import { compute } from './steps/compute.js';
import { convert } from './steps/convert.js';
import { dateParts, daysSince, recentDays } from './steps/dates.js';
import { dropMissing, dropRepeated, dropWhere } from './steps/drop-rows.js';
import { fill } from './steps/fill.js';
import { missingMarkers } from './steps/missing-markers.js';
import { addBlanks, addLeak, addNoise, addRepeats } from './steps/on-purpose.js';
import { sampleRows, shuffleRows } from './steps/order.js';
import { dropOutliers } from './steps/outliers.js';
import { scale } from './steps/scale.js';
import { mapToNumbers, mergeValues } from './steps/values.js';
import { wordCounts } from './steps/words.js';

/** Every kind of step, in the order in which a menu has them. The server, the desk and the documentation use this list. */
export const STEP_KINDS: readonly StepKind[] = [
  dropColumns,
  dropMissing,
  dropRepeated,
  dropWhere,
  dropOutliers,
  missingMarkers,
  convert,
  mergeValues,
  mapToNumbers,
  fill,
  dateParts,
  daysSince,
  recentDays,
  wordCounts,
  compute,
  scale,
  bins,
  rareCategories,
  dummies,
  shuffleRows,
  sampleRows,
  addNoise,
  addBlanks,
  addRepeats,
  addLeak,
];

/** @throws SieveError `step` for a kind that is not known */
export function stepKindOf(step: Pick<Step, 'kind'>): StepKind {
  const kind = STEP_KINDS.find(({ key }) => key === step.kind);
  if (!kind) throw new SieveError('step', `There is no step “${step.kind}”.`, { field: 'kind' });
  return kind;
}

/** A step of a kind as it is begun. */
export const newStep = (kind: StepKind, columns: readonly Kinded[]): Step => ({
  kind: kind.key,
  values: Object.fromEntries(
    Object.entries(kind.parameters).map(([key, parameter]): [string, StepValue] => [
      key,
      startOf(parameter, columns),
    ]),
  ),
});

/** The parameters that a step's sentence shows, which are those that count. */
export const shownParameters = (kind: StepKind, step: Step): readonly string[] =>
  [...kind.sentence(step.values).matchAll(/\{(\w+)\}/g)].map(([, key]) => key ?? '');

/**
 * Makes sure that a step fits a table: every parameter of its sentence has a value that it takes.
 *
 * @throws SieveError `step`, `no-such-column`, with the key of the parameter as its field
 */
export function checkStep(step: Step, table: Table): StepKind {
  const kind = stepKindOf(step);
  for (const [key, parameter] of Object.entries(kind.parameters)) {
    // A choice is looked at first: it says which other parameters count.
    if (parameter.type === 'choice') checkValue(key, parameter, step.values[key], table);
  }
  const shown = new Set(shownParameters(kind, step));
  for (const [key, parameter] of Object.entries(kind.parameters)) {
    if (shown.has(key) || parameter.type === 'choice') checkValue(key, parameter, step.values[key], table);
  }
  return kind;
}
