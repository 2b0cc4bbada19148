import { kindIn } from '../../data/sentence/sentence.js';
import { atRandom } from './at-random.js';
import { byColumn } from './by-column.js';
import { byIdentifier } from './by-identifier.js';
import { byReserve } from './by-reserve.js';
import { atCutOff, byTime } from './by-time.js';
import { everyNth } from './every-nth.js';
import { inOrder } from './in-order.js';
import type { SplitMethod, SplitPlan, Splitter } from './splitter.js';

/** Every way of splitting, in the order in which a menu has them. Desk, server, command line and documentation use it. */
export const SPLITTERS: readonly Splitter[] = [
  atRandom,
  byTime,
  atCutOff,
  everyNth,
  inOrder,
  byColumn,
  byIdentifier,
  byReserve,
];

/** Every method of assigning rows to parts. */
export const SPLIT_METHODS: readonly SplitMethod[] = SPLITTERS.flatMap(({ methods }) => methods);

/** @throws SieveError `plan-kind` */
export const splitterOf = (plan: Pick<SplitPlan, 'kind'>): Splitter =>
  kindIn(SPLITTERS, plan.kind, 'way of splitting');
