import { describe, expect, it } from '@jest/globals';
import { iris } from '../../../test/files.js';
import { meanOf } from '../../../test/models.js';
import { seededRandom } from '../../foundation/random/random.js';
import { labelsOf } from '../table/labels.js';
import { columnNamed, isCoded } from '../table/table.js';
import { correctedRatio, correctedV, correlationRatio, cramersV } from './association.js';

const classes = (count: number, rows: number, seed: number) => {
  const random = seededRandom(seed, 'classes');
  return {
    labels: Array.from({ length: count }, (_, i) => String(i)),
    codes: Int32Array.from({ length: rows }, () => random.below(count)),
  };
};
const numbersOf = (rows: number, seed: number) => {
  const random = seededRandom(seed, 'numbers');
  return Float64Array.from({ length: rows }, () => random.unit());
};
const seeds = Array.from({ length: 200 }, (_, seed) => seed);
const mean = (values: readonly (number | null)[]) => meanOf(values.map((value) => value ?? NaN));

describe('strengths that are corrected', () => {
  const table = iris();
  const species = labelsOf(columnNamed(table, 'target'));

  it('of iris are the formula of Bergsma on χ² of scipy 1.10.1, and the root of adjusted R² of statsmodels 0.13.5', () => {
    const length = columnNamed(table, 'sepal_length');
    const width = columnNamed(table, 'sepal_width');
    if (isCoded(length) || isCoded(width)) throw new Error('numbers');
    const codes = Int32Array.from(length.values, (value) => (value > 5.8 ? 1 : 0));
    expect(correctedV(species, { labels: ['no', 'yes'], codes })).toBeCloseTo(0.7171573549888977, 10);
    expect(correctedRatio(species, width.values)).toBeCloseTo(0.6266021327372281, 10);
  });

  it('are near 0 for columns of chance with very many values, where the plain ones are not', () => {
    const [rows, many] = [217, 102];
    const plain = mean(
      seeds.map((seed) => correlationRatio(classes(many, rows, seed), numbersOf(rows, seed))),
    );
    expect(plain).toBeGreaterThan(0.6);
    expect(
      mean(seeds.map((seed) => correctedRatio(classes(many, rows, seed), numbersOf(rows, seed)))),
    ).toBeLessThan(0.15);
    const two = (seed: number) => classes(2, rows, seed + 1000);
    expect(mean(seeds.map((seed) => cramersV(classes(many, rows, seed), two(seed))))).toBeGreaterThan(0.6);
    expect(mean(seeds.map((seed) => correctedV(classes(many, rows, seed), two(seed))))).toBeLessThan(0.15);
  });

  it('are 1 where one column follows from the other', () => {
    expect(correctedV(species, species)).toBeCloseTo(1, 12);
    expect(
      correctedRatio(
        species,
        Float64Array.from(species.codes, (code) => code * 2),
      ),
    ).toBeCloseTo(1, 12);
  });

  it('are none where a class has but one row, or one column does not vary', () => {
    const each = { labels: ['a', 'b', 'c'], codes: Int32Array.of(0, 1, 2) };
    expect(correctedRatio(each, Float64Array.of(1, 2, 3))).toBeNull();
    expect(correctedRatio(species, new Float64Array(150))).toBeNull();
    expect(correctedV(each, { labels: ['x'], codes: Int32Array.of(0, 0, 0) })).toBeNull();
  });
});
