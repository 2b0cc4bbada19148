import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { iris, tableOf } from '../../../test/files.js';
import { draw } from '../../../test/plans.js';
import type { Table } from '../../data/table/table.js';
import { apportion, apportionClasses } from '../algorithms/apportion.js';
import { rowsOfPart } from '../parts/parts.js';
import { partition } from './partition.js';
import { splitterOf } from './registry.js';
import { partsBy, coded, plan } from './plans-of-tests.js';

/** The same, where a few rows may leave a part empty. */
const anyPartsBy = (table: Table, over: Parameters<typeof draw>[0]) =>
  partition(table, splitterOf(plan()).ask(table, plan(over).values).plan).parts;

const sharesArbitrary = fc
  .tuple(fc.integer({ min: 1, max: 90 }), fc.integer({ min: 0, max: 40 }))
  .filter(([training, validation]) => training + validation < 100)
  .map(([training, validation]) => ({ training, validation, heldout: 100 - training - validation }));

const rowsArbitrary = fc.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 15 })), {
  minLength: 5,
  maxLength: 200,
});

const seedArbitrary = fc.integer({ min: 0, max: 2 ** 31 - 1 });

const PART_INDICES = [0, 1, 2] as const;

describe('apportion', () => {
  it('shares out everything, each share within 1 of exact', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10_000 }),
        fc.array(fc.integer({ min: 1, max: 100 }), { minLength: 1, maxLength: 5 }),
        (n, weights) => {
          const counts = apportion(n, weights);
          const total = weights.reduce((a, b) => a + b, 0);
          expect(counts.reduce((a, b) => a + b, 0)).toBe(n);
          counts.forEach((count, i) =>
            expect(Math.abs(count - (n * (weights[i] ?? 0)) / total)).toBeLessThan(1),
          );
        },
      ),
    );
  });

  it('gives classes and parts their due at once', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 12 }),
        sharesArbitrary,
        (sizes, shares) => {
          const weights = [shares.training, shares.validation, shares.heldout];
          const counts = apportionClasses(sizes, weights);
          sizes.forEach((size, c) => {
            expect((counts[c] ?? []).reduce((a, b) => a + b, 0)).toBe(size);
            counts[c]?.forEach((n, part) =>
              expect(Math.abs(n - (size * (weights[part] ?? 0)) / 100)).toBeLessThan(1),
            );
          });
          const n = sizes.reduce((a, b) => a + b, 0);
          weights.forEach((weight, part) => {
            const filled = counts.reduce((total, row) => total + (row[part] ?? 0), 0);
            expect(Math.abs(filled - (n * weight) / 100)).toBeLessThan(2);
          });
        },
      ),
    );
  });
});

describe('a random split', () => {
  it('puts every row in exactly one part, in exact sizes', () => {
    fc.assert(
      fc.property(rowsArbitrary, sharesArbitrary, seedArbitrary, (rows, shares, seed) => {
        const parts = anyPartsBy(coded(rows), { shares, seed });
        const sizes = PART_INDICES.map((part) => rowsOfPart(parts, part).length);
        expect(sizes).toEqual(apportion(rows.length, [shares.training, shares.validation, shares.heldout]));
      }),
    );
  });

  it('gives the same rows for the same seed and others for another', () => {
    const table = iris();
    expect(partsBy(table)).toEqual(partsBy(table));
    expect(partsBy(table)).not.toEqual(partsBy(table, { seed: 2719 }));
  });
});

describe('a stratified split', () => {
  it('keeps the count of each class in each part within 1 of its exact share', () => {
    fc.assert(
      fc.property(rowsArbitrary, sharesArbitrary, seedArbitrary, (rows, shares, seed) => {
        const parts = anyPartsBy(coded(rows), { shares, seed, stratify: 'class' });
        const weights = [shares.training, shares.validation, shares.heldout];
        for (let c = 0; c <= 4; c++) {
          const size = rows.filter(([code]) => code === c).length;
          weights.forEach((weight, part) => {
            const n = rows.filter(([code], row) => code === c && parts[row] === part).length;
            expect(Math.abs(n - (size * weight) / 100)).toBeLessThan(1);
          });
        }
      }),
    );
  });

  it('gives iris 35, 7 or 8, 7 or 8 of each species', () => {
    const parts = partsBy(iris(), { stratify: 'target' });
    for (let species = 0; species < 3; species++) {
      const counts = PART_INDICES.map(
        (part) => rowsOfPart(parts, part).filter((row) => Math.floor(row / 50) === species).length,
      );
      expect(counts[0]).toBe(35);
      expect([7, 8]).toContain(counts[1]);
    }
  });

  it('cuts a column of many numbers at its quantiles', () => {
    const table = tableOf(`x\n${Array.from({ length: 100 }, (_, i) => i).join('\n')}\n`);
    const parts = partsBy(table, { stratify: 'x', shares: { training: 80, validation: 0, heldout: 20 } });
    for (let fifth = 0; fifth < 5; fifth++) {
      expect(rowsOfPart(parts, 2).filter((row) => Math.floor(row / 20) === fifth)).toHaveLength(4);
    }
  });
});

describe('a grouped split', () => {
  for (const stratify of [null, 'class']) {
    it(`never parts a group${stratify ? ', stratified as well' : ''}`, () => {
      fc.assert(
        fc.property(rowsArbitrary, sharesArbitrary, seedArbitrary, (rows, shares, seed) => {
          fc.pre(new Set(rows.map(([, g]) => g)).size >= 3);
          const parts = anyPartsBy(coded(rows), { shares, seed, group: 'group', stratify: stratify ?? '' });
          const partOf = new Map<number, number>();
          rows.forEach(([, g], row) => {
            const part = parts[row] ?? -1;
            expect(partOf.get(g) ?? part).toBe(part);
            partOf.set(g, part);
          });
        }),
      );
    });
  }

  it('comes as near the shares as whole groups allow', () => {
    // Groups of equal size: 20 groups of 5 rows part 70 : 15 : 15 exactly.
    const rows = Array.from({ length: 100 }, (_, i) => [0, Math.floor(i / 5)] as const);
    fc.assert(
      fc.property(seedArbitrary, (seed) => {
        const parts = anyPartsBy(coded(rows), { group: 'group', seed });
        expect(PART_INDICES.map((part) => rowsOfPart(parts, part).length)).toEqual([70, 15, 15]);
      }),
      { numRuns: 50 },
    );
  });

  it('no single move of a group would bring the sizes nearer', () => {
    fc.assert(
      fc.property(rowsArbitrary, seedArbitrary, (rows, seed) => {
        fc.pre(new Set(rows.map(([, g]) => g)).size >= 3);
        const parts = anyPartsBy(coded(rows), { group: 'group', seed });
        const targets = [0.7, 0.15, 0.15].map((share) => share * rows.length);
        const off = (sizes: readonly number[]) =>
          sizes.reduce((sum, size, p) => sum + (size - (targets[p] ?? 0)) ** 2 / (targets[p] ?? 1), 0);
        const sizes = PART_INDICES.map((part) => rowsOfPart(parts, part).length);
        for (const g of new Set(rows.map(([, group]) => group))) {
          const members = rows.flatMap(([, group], row) => (group === g ? [row] : []));
          const from = parts[members[0] ?? 0] ?? 0;
          for (const to of PART_INDICES) {
            const moved = sizes.map(
              (size, p) => size + (p === to ? members.length : 0) - (p === from ? members.length : 0),
            );
            expect(off(moved)).toBeGreaterThanOrEqual(off(sizes) - 1e-9);
          }
        }
      }),
    );
  });
});
