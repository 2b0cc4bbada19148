import { makeFolds } from '../../splitting/folds/folds.js';
import { areaOf, rankingOf } from '../../metrics/curves/ranking.js';
import { at, quantile } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { isCoded, type Column } from '../../data/table/table.js';

const BINS = 16;
const MOST_LEVELS = 64;
const FOLDS = 5;
/** Rows that are looked at in each of the two sets at most. */
const MOST_ROWS = 10_000;

/**
 * How well a classifier, judged out of fold, separates the rows of one part from those of another: the area under its ROC
 * curve, 0.5 where it cannot.
 *
 * The classifier is a naive Bayes over binned features (sixteenths for numbers, a missing cell a bin of its own,
 * Laplace's correction): it finds any difference of a single feature and sums them up; it does not find parts that
 * differ in combinations alone. Of large parts 10,000 rows are drawn with the seed.
 *
 * @returns null for fewer than five rows on a side or without a feature
 */
export function adversarialValidation(
  features: readonly Column[],
  a: Int32Array,
  b: Int32Array,
  seed: number,
): number | null {
  const usable = features.filter((column) => column.kind !== 'text');
  if (Math.min(a.length, b.length) < FOLDS || usable.length === 0) return null;
  const sample = (rows: Int32Array, stream: string) =>
    rows.length <= MOST_ROWS ? rows : shuffle(rows.slice(), seededRandom(seed, stream)).slice(0, MOST_ROWS);
  const [left, right] = [sample(a, 'tell apart, first'), sample(b, 'tell apart, second')];
  const rows = Int32Array.of(...left, ...right);
  const side = Uint8Array.from(rows, (_, i) => (i < left.length ? 0 : 1));
  const binned = usable.map((column) => binsOf(column, rows));
  const folds = makeFolds(
    {
      rowCount: rows.length,
      columns: [{ kind: 'category', name: 'side', levels: ['a', 'b'], codes: Int32Array.from(side) }],
    },
    { method: 'stratified', stratify: 'side', k: FOLDS, seed },
  );
  const foldOf = at(folds.tests, 0);
  const scores = new Float64Array(rows.length);
  for (const { bins, count } of binned) {
    // Counts by fold, side and bin; what is left out of a fold is the rest.
    const counts = new Float64Array(FOLDS * 2 * count);
    const cell = (fold: number, s: number, bin: number) => (fold * 2 + s) * count + bin;
    for (let i = 0; i < rows.length; i++) {
      const c = cell(foldOf[i] ?? 0, side[i] ?? 0, bins[i] ?? 0);
      counts[c] = (counts[c] ?? 0) + 1;
    }
    const logRatio = new Float64Array(FOLDS * count);
    for (let fold = 0; fold < FOLDS; fold++) {
      const learned = [0, 1].map((s) =>
        Float64Array.from({ length: count }, (_, bin) => {
          let n = 1;
          for (let other = 0; other < FOLDS; other++)
            if (other !== fold) n += at(counts, cell(other, s, bin));
          return n;
        }),
      );
      const totals = learned.map((n) => n.reduce((x, y) => x + y, 0));
      for (let bin = 0; bin < count; bin++)
        logRatio[fold * count + bin] =
          Math.log(at(at(learned, 1), bin) / at(totals, 1)) -
          Math.log(at(at(learned, 0), bin) / at(totals, 0));
    }
    for (let i = 0; i < rows.length; i++)
      scores[i] = (scores[i] ?? 0) + at(logRatio, (foldOf[i] ?? 0) * count + (bins[i] ?? 0));
  }
  return areaOf(rankingOf(scores, side, 1, null));
}

/** The bin of each of some rows: levels of a column of classes, sixteenths of one of numbers; the last is for no value. */
function binsOf(column: Column, rows: Int32Array): { bins: Int32Array; count: number } {
  if (isCoded(column)) {
    const levels = Math.min(column.levels.length, MOST_LEVELS);
    const bins = rows.map((row) => {
      const code = column.codes[row] ?? 0;
      return code < 0 ? levels : code % Math.max(1, levels);
    });
    return { bins, count: levels + 1 };
  }
  const values = Float64Array.from(rows, (row) => column.values[row] ?? 0);
  const sorted = sortedValues(values);
  if (sorted.length === 0) return { bins: new Int32Array(rows.length), count: 1 };
  const cuts = [...new Set(Array.from({ length: BINS - 1 }, (_, i) => quantile(sorted, (i + 1) / BINS)))];
  const bins = Int32Array.from(values, (value) => {
    if (Number.isNaN(value)) return cuts.length + 1;
    let bin = 0;
    while (bin < cuts.length && value > (cuts[bin] ?? 0)) bin++;
    return bin;
  });
  return { bins, count: cuts.length + 2 };
}
