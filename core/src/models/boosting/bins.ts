import type { TreeInputs } from '../trees/compact-tree.js';

/** The most bins of a column: each has to be one byte, and one is for missing values. */
export const MOST_BINS = 255;

/** A column of training rows as bins of neighbouring values, or as levels. */
export interface BinnedColumn {
  /** Of each row its bin, or its level's code; `count` where there is no value. */
  readonly bins: Uint8Array;
  /** Numbers up to `edges[b]` are in the bins up to b; levels have none. */
  readonly edges: Float64Array;
  /** Bins, or levels, the missing one not counted. */
  readonly count: number;
  readonly isCategory: boolean;
  readonly hasMissing: boolean;
}

/**
 * The columns of training rows in bins: one for each value where there are few, else bins of about as many rows each
 * (Ke and others, LightGBM, 2017; scikit-learn, HistGradientBoostingClassifier).
 *
 * @param most bins of a column
 */
export const binColumns = ({ values, isCategory, levels }: TreeInputs, most: number): BinnedColumn[] =>
  values.map((column, place) =>
    isCategory[place] ? binLevels(column, levels[place] ?? 0) : binNumbers(column, most),
  );

function binLevels(codes: Float64Array, count: number): BinnedColumn {
  const bins = Uint8Array.from(codes, (code) => (Number.isNaN(code) ? count : code));
  return { bins, edges: new Float64Array(), count, isCategory: true, hasMissing: bins.includes(count) };
}

function binNumbers(values: Float64Array, most: number): BinnedColumn {
  const sorted = values.filter((value) => !Number.isNaN(value)).sort();
  const edges = edgesOf(sorted, most);
  const bins = new Uint8Array(values.length);
  let hasMissing = false;
  for (let row = 0; row < values.length; row++) {
    const value = values[row] ?? NaN;
    if (Number.isNaN(value)) {
      bins[row] = edges.length + 1;
      hasMissing = true;
      continue;
    }
    let [low, high] = [0, edges.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((edges[middle] ?? 0) < value) low = middle + 1;
      else high = middle;
    }
    bins[row] = low;
  }
  return { bins, edges, count: edges.length + 1, isCategory: false, hasMissing };
}

/** Half-way between neighbouring values where they are few, else quantiles, half-way between the two rows that they lie between. */
function edgesOf(sorted: Float64Array, most: number): Float64Array {
  const distinct = sorted.filter((value, i) => i === 0 || value !== sorted[i - 1]);
  const few = distinct.length <= most;
  const edges = Float64Array.from({ length: few ? Math.max(0, distinct.length - 1) : most - 1 }, (_, i) => {
    const position = few ? i + 0.5 : ((sorted.length - 1) * (i + 1)) / most;
    const values = few ? distinct : sorted;
    const below = values[Math.floor(position)] ?? 0;
    const above = values[Math.ceil(position)] ?? 0;
    const middle = below + (above - below) / 2;
    return middle < above ? middle : below;
  });
  return edges.filter((edge, i) => i === 0 || edge > (edges[i - 1] ?? 0));
}
