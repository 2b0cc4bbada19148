import { kindIn, type Plan } from '../../data/sentence/sentence.js';
import { bayes, pruning, treeSplit } from './tree.js';
import { confusion } from './confusion.js';
import { columnSummary, seededScore } from './data.js';
import type { Generator } from './generator.js';
import { inference } from './inference.js';
import { agreement, numbers, probabilities } from './predictions.js';
import { foldScores, gridFits, settingsTable } from './resampling.js';
import { rocPoints } from './roc-points.js';
import { screenedColumn } from './screening.js';
import { listSummary, splitSizes } from './sizes.js';

/** Everything that a question of values can be about, in the order in which a menu has it. */
export const GENERATORS: readonly Generator[] = [
  confusion,
  probabilities,
  numbers,
  rocPoints,
  agreement,
  splitSizes,
  listSummary,
  foldScores,
  settingsTable,
  gridFits,
  screenedColumn,
  treeSplit,
  pruning,
  bayes,
  inference,
  columnSummary,
  seededScore,
];

/** @throws SieveError `plan-kind` */
export const generatorOf = (plan: Pick<Plan, 'kind'>): Generator =>
  kindIn(GENERATORS, plan.kind, 'thing to be computed');
