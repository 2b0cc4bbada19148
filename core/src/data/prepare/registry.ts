import type { Table } from '../table/table.js';
import { checkPlanned, kindIn } from '../sentence/sentence.js';
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
import { trim } from './steps/trim.js';
import { mapToNumbers, mergeValues } from './steps/values.js';
import { wordCounts } from './steps/words.js';

/** Every kind of step, in the order in which a menu has them. The server, the desk and the documentation use this list. */
export const STEP_KINDS: readonly StepKind[] = [
  dropColumns,
  dropMissing,
  dropRepeated,
  dropWhere,
  dropOutliers,
  trim,
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

/** @throws SieveError `plan-kind` for a kind that is not known */
export const stepKindOf = (step: Pick<Step, 'kind'>): StepKind => kindIn(STEP_KINDS, step.kind, 'step');

/**
 * Makes sure that a step fits a table: every parameter of its sentence has a value that it takes.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`, with the key of the parameter as its field
 */
export function checkStep(step: Step, table: Table): StepKind {
  const kind = stepKindOf(step);
  checkPlanned(kind, step, table.columns);
  return kind;
}
