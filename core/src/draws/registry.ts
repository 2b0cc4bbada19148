import { kindIn, type Planned } from '../sentence/sentence.js';
import { bayes, pruning, treeSplit } from './tree.js';
import { confusion } from './confusion.js';
import { columnSummary, seededScore } from './data.js';
import type { DrawKind } from './draw.js';
import { inference } from './inference.js';
import { agreement, numbers, probabilities } from './predictions.js';
import { foldScores, gridFits, settingsTable } from './resampling.js';
import { rocPoints } from './roc-points.js';
import { listSummary, splitSizes } from './sizes.js';

/** Everything that a question of values can be about, in the order in which a menu has it. */
export const DRAW_KINDS: readonly DrawKind[] = [
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
  treeSplit,
  pruning,
  bayes,
  inference,
  columnSummary,
  seededScore,
];

/** @throws SieveError `plan-kind` */
export const drawKindOf = (plan: Pick<Planned, 'kind'>): DrawKind =>
  kindIn(DRAW_KINDS, plan.kind, 'thing to be computed');
