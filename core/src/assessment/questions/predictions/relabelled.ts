import { at } from '../../../foundation/numbers.js';
import type { AnswerKey } from '../../files/judge.js';

/** Classes up to which every relabelling is tried. */
const MOST_CLASSES = 6;

/** Labels under other names. */
interface Relabelled {
  readonly predicted: Int32Array;
  /** Relabellings of which it is the best. */
  readonly tried: number;
  /** Standard errors of kappa above chance, of the rows whose truth and prediction are both among the renamed labels. */
  readonly agreement: number;
}

/** All orders of 0 … n − 1, the identity among them. */
function permutations(n: number): number[][] {
  if (n === 0) return [[]];
  return permutations(n - 1).flatMap((rest) =>
    Array.from({ length: n }, (_, place) => [...rest.slice(0, place), n - 1, ...rest.slice(place)]),
  );
}

/**
 * The renaming of labels that agrees with the truth in the most rows; null where no renaming agrees in more than the names
 * that were given, or there are too many.
 *
 * A model that says a rare class too often may agree in more rows under other names and is nevertheless right about which
 * rows are more like it: among the renamed labels the agreement must be beyond chance too.
 */
export function bestRelabelling(predicted: Int32Array, { classes, labels }: AnswerKey): Relabelled | null {
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
  const given = labels.map((_, code) => code);
  const best = all.reduce((so, names) => (hits(names) > hits(so) ? names : so), given);
  return best === given
    ? null
    : {
        predicted: predicted.map((code) => at(best, code)),
        tried: all.length,
        agreement: agreementOf(counts, best),
      };
}

/** Kappa over its standard error without agreement (Fleiss, Cohen and Everitt, Psychological Bulletin 72, 1969). */
function agreementOf(counts: readonly Float64Array[], names: readonly number[]): number {
  const codes = names.flatMap((name, code) => (name === code ? [] : [code]));
  const cell = (code: number, truth: number) => at(at(counts, code), truth);
  const n = codes.reduce((sum, code) => sum + codes.reduce((all, truth) => all + cell(code, truth), 0), 0);
  if (n === 0) return 0;
  let [observed, expected, spread] = [0, 0, 0];
  for (const code of codes) {
    const name = at(names, code);
    const said = codes.reduce((sum, truth) => sum + cell(code, truth), 0) / n;
    const is = codes.reduce((sum, other) => sum + cell(other, name), 0) / n;
    observed += cell(code, name) / n;
    expected += said * is;
    spread += said * is * (said + is);
  }
  const variance = (expected + expected ** 2 - spread) / n;
  return variance > 0 ? (observed - expected) / Math.sqrt(variance) : 0;
}
