import { at, count, counted } from '../../foundation/numbers.js';
import { correlationRatio, cramersV, spearman } from '../../data/profile/association.js';
import { firstAlike } from '../../data/table/same-rows.js';
import { isCoded, isMissing, type Table } from '../../data/table/table.js';
import type { Leak, Watched } from './leak.js';

/** Strength from which missing cells are said to go with the target, and the χ² above which that is no chance (p < 0.0001). */
const STRONG = 0.3;
const NO_CHANCE = 15.1;
/** Runs of equal labels, as a share of what shuffled rows have, below which rows are said to be sorted. */
const FEW_RUNS = 0.5;
const SORTED = 0.8;
const FEWEST_ROWS = 20;

/** Columns whose missing cells go with the target. */
export function watchMissing({ features, target, classes, roles }: Watched): Leak[] {
  return features.flatMap((column) => {
    const codes = classes.codes.map((_, row) => (isMissing(column, row) ? 1 : 0));
    const missing = codes.reduce((a, b) => a + b, 0);
    if (missing < 5 || missing > codes.length - 5) return [];
    const indicator = { labels: ['present', 'missing'], codes };
    const strength =
      roles.task === 'regression' && !isCoded(target)
        ? correlationRatio(indicator, target.values)
        : cramersV(indicator, classes);
    if (strength === null || strength < STRONG || strength ** 2 * codes.length < NO_CHANCE) return [];
    return [
      {
        column: column.name,
        kind: 'missing',
        measure: strength,
        message: `Whether ${column.name} is missing, as in ${counted(missing, 'row')}, goes with ${roles.target} (${strength.toFixed(2)} of 1).`,
      },
    ];
  });
}

/** Rows in the order of the target: a split by position would then part the classes. */
export function watchOrder({ target, classes, roles }: Watched): Leak[] {
  const found =
    roles.task === 'regression' && !isCoded(target)
      ? sortedNumbers(target.values)
      : runsOfClasses(classes.codes, classes.labels.length);
  if (found === null) return [];
  const { isSorted, measure, shown } = found;
  const message = isSorted
    ? `The rows are sorted by ${roles.target}: their position gives it away, and the first rows are not like the last.`
    : `Rows beside one another often have the same ${roles.target} (${shown}): their position says something of it.`;
  return [{ column: null, kind: 'order', measure, message }];
}

interface Order {
  readonly isSorted: boolean;
  readonly measure: number;
  /** The figure in words. */
  readonly shown: string;
}

/** Runs of equal labels against what is expected of shuffled rows (Wald and Wolfowitz, 1940): 1 + (n² − Σ nᵢ²) / n. */
function runsOfClasses(codes: Int32Array, classes: number): Order | null {
  const present = codes.filter((code) => code >= 0);
  const n = present.length;
  const counts = new Float64Array(classes);
  let runs = 0;
  present.forEach((code, i) => {
    counts[code] = at(counts, code) + 1;
    if (i === 0 || present[i - 1] !== code) runs++;
  });
  const expected = 1 + (n * n - counts.reduce((total, m) => total + m * m, 0)) / n;
  if (n < FEWEST_ROWS || expected <= 4 || runs >= FEW_RUNS * expected) return null;
  return {
    isSorted: runs === counts.filter((m) => m > 0).length,
    measure: runs / expected,
    shown: `${counted(runs, 'run')} of equal values, where shuffled rows have about ${count(Math.round(expected))}`,
  };
}

function sortedNumbers(values: Float64Array): Order | null {
  if (values.length < FEWEST_ROWS) return null;
  const r = Math.abs(spearman(Float64Array.from(values.keys()), values) ?? 0);
  if (r < SORTED) return null;
  const present = values.filter((value) => !Number.isNaN(value));
  const isSorted = [1, -1].some((way) =>
    present.every((value, i) => i === 0 || way * (value - at(present, i - 1)) >= 0),
  );
  return { isSorted, measure: r, shown: `rank correlation with the position ${r.toFixed(2)}` };
}

/** Rows that repeat others. */
export function watchRepeats(table: Table): Leak[] {
  const repeated = firstAlike(table.columns, table.rowCount).filter((first, row) => first !== row).length;
  if (repeated === 0) return [];
  return [
    {
      column: null,
      kind: 'duplicates',
      measure: repeated,
      message: `${counted(repeated, 'row')} ${repeated === 1 ? 'repeats' : 'repeat'} an earlier one in every column.`,
    },
  ];
}

/** Rows with the same features and another label. */
export function watchContradictions({ table, features, classes, roles }: Watched): Leak[] {
  if (roles.task === 'regression' || features.length === 0) return [];
  let against = 0;
  firstAlike(features, table.rowCount).forEach((other, row) => {
    const [own, earlier] = [at(classes.codes, row), at(classes.codes, other)];
    if (own >= 0 && earlier >= 0 && own !== earlier) against++;
  });
  if (against === 0) return [];
  return [
    {
      column: null,
      kind: 'contradictions',
      measure: against,
      message: `${count(against)} ${against === 1 ? 'row has' : 'rows have'} the features of an earlier row and another ${roles.target}: no model can get both right.`,
    },
  ];
}
