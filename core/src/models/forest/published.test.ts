import { describe, expect, it } from '@jest/globals';
import { fit } from '../../../test/models.js';
import { codedColumn } from '../../data/table/recode.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom, type Random } from '../../foundation/random/random.js';
import { likeliest } from '../contract/chances.js';
import { predictRows } from '../fitted.js';

/** Box and Muller, 1958. */
const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

/** Half the distance of two classes, in each of 20 columns. */
const A = 2 / Math.sqrt(20);
const wave = (i: number): number => Math.max(6 - Math.abs(i - 11), 0);
const WAVES = [wave, (i: number) => wave(i - 4), (i: number) => wave(i + 4)];
const PAIRS: readonly (readonly [number, number])[] = [
  [0, 1],
  [0, 2],
  [1, 2],
];
const row = (length: number, value: (i: number) => number) => Array.from({ length }, (_, i) => value(i));

/** Rows as Breiman drew them (Bias, variance, and arcing classifiers, technical report 460, Berkeley 1996, appendix). */
const DRAWN: Readonly<Record<string, (random: Random) => { label: number; cells: number[] }>> = {
  waveform(random) {
    const label = random.below(3);
    const share = random.unit();
    const [first, second] = at(PAIRS, label);
    const height = (i: number) => share * at(WAVES, first)(i) + (1 - share) * at(WAVES, second)(i);
    return { label, cells: row(21, (i) => height(i + 1) + normal(random)) };
  },
  twonorm(random) {
    const label = random.below(2);
    return { label, cells: row(20, () => normal(random) + (label === 1 ? A : -A)) };
  },
  threenorm(random) {
    const label = random.below(2);
    const side = random.below(2) === 1 ? A : -A;
    return { label, cells: row(20, (i) => normal(random) + (label === 1 ? (i % 2 === 1 ? A : -A) : side)) };
  },
  ringnorm(random) {
    const label = random.below(2);
    return { label, cells: row(20, () => (label === 1 ? normal(random) + A : 2 * normal(random))) };
  },
};

const [TRAINING, TEST, REPEATS] = [300, 3000, 12];

/** The share of 3,000 further rows that a forest of 100 trees gets wrong, one column tried at a split, in percent. */
function errorOf(name: string, seed: number): number {
  const random = seededRandom(seed, name);
  const drawn = Array.from(
    { length: TRAINING + TEST },
    () => DRAWN[name]?.(random) ?? { label: 0, cells: [] },
  );
  const columns = at(drawn, 0).cells.map((_, c) => ({
    name: `x${c}`,
    kind: 'number' as const,
    values: Float64Array.from(drawn, ({ cells }) => at(cells, c)),
  }));
  const labels = ['1', '2', '3'];
  const target = codedColumn(
    'class',
    labels,
    Int32Array.from(drawn, ({ label }) => label),
    'category',
  );
  const table = { rowCount: drawn.length, columns: [...columns, target] };
  const task = name === 'waveform' ? 'multiclass' : 'binary';
  const settings = { trees: 100, features_per_split: 1 };
  const rows = indices(TRAINING);
  const fitted = fit(table, 'class', task, 'forest', settings, { rows, seed });
  const rest = indices(drawn.length).slice(TRAINING);
  const said = likeliest(predictRows(fitted, table, rest), null);
  return (100 * rest.filter((place, i) => at(drawn, place).label !== said[i]).length) / TEST;
}

/** Of a program whose runs spread so, how far the mean of ours may be from the mean of its. */
const threeDeviations = (spread: number, runs: number): number =>
  3 * spread * Math.sqrt(1 / REPEATS + 1 / runs);

const meanError = (name: string): number =>
  Array.from({ length: REPEATS }, (_, seed) => errorOf(name, seed)).reduce((a, b) => a + b) / REPEATS;

describe('a forest of 100 trees with one column tried at a split', () => {
  // Figures from memory; the mean of 100 draws, of which he gives no spread: that of scikit-learn stands for it.
  it.each([
    ['waveform', 17.3, 1.09],
    ['threenorm', 17.5, 1.22],
  ])(
    'errs on %s as in Breiman, Random Forests, Machine Learning 45, 2001, table 2',
    (name, published, spread) => {
      expect(Math.abs(meanError(name) - published)).toBeLessThan(threeDeviations(spread, 100));
    },
  );

  // Of these two he has 3.9 and 4.9, which neither program comes to. The other 15 of his data sets are files.
  it.each([
    ['twonorm', 3.73, 0.45],
    ['ringnorm', 3.9, 0.45],
  ])(
    'errs on %s as scikit-learn 1.2 does (30 draws, RandomForestClassifier, max_features=1)',
    (name, mean, spread) => {
      expect(Math.abs(meanError(name) - mean)).toBeLessThan(threeDeviations(spread, 30));
    },
  );
});
