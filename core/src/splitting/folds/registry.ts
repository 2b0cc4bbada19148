import type { ColumnInfo } from '../../data/sentence/parameter.js';
import { checkPlanned, kindIn } from '../../data/sentence/sentence.js';
import { foldsAtRandom } from './at-random.js';
import { withReplacement } from './bootstrap.js';
import type { FoldMethod, FoldPlan, FoldSentence, FoldSplitter } from './fold-splitter.js';
import { oneGroupAtATime, oneRowAtATime } from './leave-one-out.js';
import { expandingWindow, slidingWindow } from './over-time.js';

/** Every way of making folds, in the order in which a menu has them. Desk, server, command line and documentation use it. */
export const FOLD_SPLITTERS: readonly FoldSplitter[] = [
  foldsAtRandom,
  oneGroupAtATime,
  oneRowAtATime,
  expandingWindow,
  slidingWindow,
  withReplacement,
];

/** Every method of making folds. */
export const FOLD_METHODS: readonly FoldMethod[] = FOLD_SPLITTERS.flatMap(({ methods }) => methods);

/** @throws SieveError `plan-kind` */
export const foldSplitterOf = (plan: Pick<FoldSentence, 'kind'>): FoldSplitter =>
  kindIn(FOLD_SPLITTERS, plan.kind, 'way of making folds');

/**
 * What a sentence asks `makeFolds` for.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`
 */
export function foldPlanOf(sentence: FoldSentence, columns: readonly ColumnInfo[]): FoldPlan {
  const kind = foldSplitterOf(sentence);
  checkPlanned(kind, sentence, columns);
  return kind.ask(sentence.values);
}
