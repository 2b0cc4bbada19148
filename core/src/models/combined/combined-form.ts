import { chancesOf, likeliest } from '../contract/chances.js';
import type { Sample } from '../contract/sample.js';
import type { ModelState, Predicted, StateForm } from '../contract/state.js';
import { at } from '../../foundation/numbers.js';
import { LEARNERS } from '../learners/learners.js';

/** How what several models say becomes one. */
export type Joining = 'average' | 'vote';

export interface CombinedState {
  readonly form: 'combined';
  readonly joined: Joining;
  readonly members: readonly ModelState[];
  /** One for each member, of all of them 1. */
  readonly weights: readonly number[];
  /** 0 where numbers are predicted. */
  readonly classes: number;
  /** Of two classes; null for more, and for numbers. */
  readonly positive: number | null;
}

const FORMS = [...new Set(LEARNERS.flatMap(({ forms }) => forms))];

function formOf({ form }: ModelState): StateForm {
  const found = FORMS.find(({ name }) => name === form);
  if (!found) throw new RangeError(`no form of models that are combined is called ${form}`);
  return found;
}

/** What a member says: for each class its probability, or numbers. */
export function memberSays(
  state: ModelState,
  sample: Sample,
  { classes, positive }: Pick<CombinedState, 'classes' | 'positive'>,
): Predicted {
  const said = formOf(state).predict(state, sample);
  return classes === 0 ? said : chancesOf(said, positive);
}

/** One answer for each row from what each member says of it: for each member, for each class, n values. */
function join(
  said: readonly Predicted[],
  { joined, weights, classes, positive }: Omit<CombinedState, 'form' | 'members'>,
): Predicted {
  if (joined === 'vote')
    return classes === 0 ? [mediansOf(said.map((one) => at(one, 0)))] : votes(said, classes, positive);
  const rows = said[0]?.[0]?.length ?? 0;
  return Array.from({ length: Math.max(1, classes) }, (_, output) => {
    const sum = new Float64Array(rows);
    said.forEach((one, member) => {
      const values = at(one, output);
      const weight = at(weights, member);
      for (let row = 0; row < rows; row++) sum[row] = (sum[row] ?? 0) + weight * (values[row] ?? 0);
    });
    // The weights sum to 1 but for rounding, which no probability may show.
    return classes === 0 ? sum : sum.map((share) => Math.min(1, share));
  });
}

/** The share of the members that say each class. */
function votes(said: readonly Predicted[], classes: number, positive: number | null): Predicted {
  const rows = said[0]?.[0]?.length ?? 0;
  const shares = Array.from({ length: classes }, () => new Float64Array(rows));
  for (const one of said)
    likeliest(one, positive).forEach((label, row) => {
      const share = at(shares, label);
      share[row] = (share[row] ?? 0) + 1 / said.length;
    });
  return shares;
}

function mediansOf(said: readonly Float64Array[]): Float64Array {
  const half = said.length >> 1;
  const own = new Float64Array(said.length);
  return Float64Array.from(at(said, 0), (_, row) => {
    said.forEach((values, member) => (own[member] = values[row] ?? NaN));
    own.sort();
    return said.length % 2 === 1 ? at(own, half) : (at(own, half - 1) + at(own, half)) / 2;
  });
}

export const combinedForm: StateForm<CombinedState> = {
  name: 'combined',
  predict: (state, sample) =>
    join(
      state.members.map((member) => memberSays(member, sample, state)),
      state,
    ),
  sizeOf: ({ members }, features) => {
    const sizes = members.map((member) => formOf(member).sizeOf(member, features));
    const first = sizes[0];
    if (!first || !sizes.every((size) => size?.of === first.of)) return null;
    return { of: first.of, count: sizes.reduce((sum, size) => sum + (size?.count ?? 0), 0) };
  },
};
