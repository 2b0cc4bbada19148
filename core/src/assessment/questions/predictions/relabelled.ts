import { at, indices } from '../../../foundation/numbers.js';
import type { AnswerKey } from '../../files/judge.js';

/** Classes up to which every relabelling is tried. */
const MOST_CLASSES = 6;
/** All orders of 0 … n − 1. */
function permutations(n: number): number[][] {
  if (n === 0) return [[]];
  return permutations(n - 1).flatMap((rest) =>
    Array.from({ length: n }, (_, place) => [...rest.slice(0, place), n - 1, ...rest.slice(place)]),
  );
}

/** The renaming of labels that agrees best with the truth. */
export function bestRelabelling(
  { predicted }: { readonly predicted: Int32Array },
  { classes, labels }: AnswerKey,
): { readonly predicted: Int32Array; readonly tried: number } | null {
  const k = labels.length;
  if (!classes || k > MOST_CLASSES) return null;
  const counts = Array.from({ length: k }, () => new Float64Array(k));
  predicted.forEach((code, row) => {
    const own = at(counts, code);
    const truth = at(classes, row);
    own[truth] = at(own, truth) + 1;
  });
  const all = permutations(k);
  const hits = (names: readonly number[]) =>
    names.reduce((sum, truth, code) => sum + at(at(counts, code), truth), 0);
  const best = all.reduce(
    (so, names) => (hits(names) > hits(so) ? names : so),
    indices(k) as unknown as number[],
  );
  return { predicted: predicted.map((code) => at(best, code)), tried: all.length };
}
