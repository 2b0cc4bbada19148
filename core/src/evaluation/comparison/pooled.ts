import type { Judged } from '../../metrics/judged.js';

/**
 * The out-of-fold predictions of all folds as one, so that a figure can be had of all rows at once, beside the mean
 * over folds.
 *
 * @param folds of one task, all with probabilities or none, all with weights or none
 * @throws TypeError where they are of different kinds
 */
export function pooled(folds: readonly Judged[]): Judged {
  const [first] = folds;
  if (!first) throw new TypeError('there are no folds');
  const weights = joinAll(folds.map((fold) => fold.data.weights));
  if (first.kind === 'numbers') {
    const data = folds.map((fold) => (fold.kind === 'numbers' ? fold.data : fail()));
    return {
      kind: 'numbers',
      data: {
        ...first.data,
        truth: join(data.map((d) => d.truth)),
        predicted: join(data.map((d) => d.predicted)),
        weights,
      },
    };
  }
  const data = folds.map((fold) => (fold.kind === 'labels' ? fold.data : fail()));
  const codes = (parts: readonly Int32Array[]) =>
    Int32Array.from(join(parts.map((part) => Float64Array.from(part))));
  return {
    kind: 'labels',
    data: {
      ...first.data,
      truth: codes(data.map((d) => d.truth)),
      predicted: codes(data.map((d) => d.predicted)),
      probabilities:
        first.data.probabilities?.map((_, label) =>
          join(data.map((d) => d.probabilities?.[label] ?? fail())),
        ) ?? null,
      weights,
    },
  };
}

function fail(): never {
  throw new TypeError('the folds are of different kinds');
}

function joinAll(parts: readonly (Float64Array | null)[]): Float64Array | null {
  const given = parts.filter((part) => part !== null);
  if (given.length === 0) return null;
  return given.length === parts.length ? join(given) : fail();
}

function join(parts: readonly Float64Array[]): Float64Array {
  const out = new Float64Array(parts.reduce((n, part) => n + part.length, 0));
  let place = 0;
  for (const part of parts) {
    out.set(part, place);
    place += part.length;
  }
  return out;
}
