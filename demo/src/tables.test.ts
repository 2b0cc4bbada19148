import { describe, expect, it } from '@jest/globals';
import {
  columnNamed,
  firstProblem,
  isMissing,
  labelsOf,
  prepare,
  readCsv,
  rolesAfter,
  selectRows,
  type Table,
} from '@modest-sieve/core/data';
import { foldPlanOf, makeFolds, splitRows, usableRows } from '@modest-sieve/core/splitting';
import { findingsOf } from '@modest-sieve/core/audit';
import { DEMO_TABLES } from './tables.js';
import type { DemoTable } from './demo-table.js';

const made = (name: string): { demo: DemoTable; raw: Table } => {
  const demo = DEMO_TABLES.find(({ file }) => file === name);
  if (!demo) throw new Error(`there is no ${name}`);
  return { demo, raw: readCsv(new TextEncoder().encode(demo.csv()), { file: name }).table };
};
const TABLES = DEMO_TABLES.map(({ file }) => [file, made(file)] as const);
const messages = (table: Table, demo: DemoTable) =>
  findingsOf(table, demo.roles).findings.map(({ message }) => message);
const numbers = (table: Table, name: string): Float64Array => {
  const column = columnNamed(table, name);
  if (column.kind !== 'number') throw new Error(`${name} holds no numbers`);
  return column.values;
};

describe.each(TABLES)('%s', (_, { demo, raw }) => {
  it('is the same every time it is made', () => {
    expect(demo.csv()).toBe(demo.csv());
  });

  it('is prepared, split and folded by plans that fit', () => {
    const { table, effects } = prepare(raw, demo.steps);
    expect(firstProblem(demo.steps, effects)).toBeNull();
    const roles = rolesAfter(table, demo.roles);
    expect(roles).not.toBeNull();
    for (const name of Object.keys(demo.descriptions)) expect(raw.columns.map((c) => c.name)).toContain(name);
    if (!demo.split || !roles) return;
    const { usable } = usableRows(table, roles);
    const { parts } = splitRows(table, demo.split, usable);
    const training = Uint8Array.from(parts, (part) => (part === 0 ? 1 : 0));
    expect(makeFolds(table, foldPlanOf(demo.folds, table.columns), training).count).toBeGreaterThan(2);
  });
});

describe('the flaws that the tables were made with', () => {
  it('honey yield: two weather columns that are nearly one, rare forage, dates in two forms', () => {
    const { demo, raw } = made('honey-yield.csv');
    expect(raw.rowCount).toBe(2220);
    const found = messages(raw, demo).join('\n');
    expect(found).toMatch(/sun_hours and mean_temperature are nearly the same/);
    expect(found).toMatch(/forage has \d values with fewer than 10 rows/);
    expect(found).toMatch(/harvested holds dates that were read as texts/);
    const prepared = prepare(raw, demo.steps).table;
    expect(columnNamed(prepared, 'harvested').kind).toBe('time');
    const left = messages(prepared, demo).join('\n');
    expect(left).not.toMatch(/nearly the same|fewer than 10 rows|read as texts/);
  });

  it('honey yield: the spread grows with the yield', () => {
    const { raw } = made('honey-yield.csv');
    const [frames, honey] = [numbers(raw, 'frames_in_june'), numbers(raw, 'honey_kg')];
    const spread = (low: number, high: number) => {
      const values = honey.filter((__, row) => (frames[row] ?? 0) >= low && (frames[row] ?? 0) < high);
      const mean = values.reduce((a, b) => a + b, 0) / values.length;
      return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
    };
    expect(spread(16, 23)).toBeGreaterThan(1.4 * spread(3, 10));
  });

  it('pollen grains: one rare plant, and a file name that says which it is', () => {
    const { demo, raw } = made('pollen-grains.csv');
    const { labels, codes } = labelsOf(columnNamed(raw, 'plant'));
    const share = (label: string) => codes.filter((code) => labels[code] === label).length / codes.length;
    expect(labels).toHaveLength(5);
    expect(share('willow')).toBeLessThan(0.04);
    expect(messages(raw, demo).join('\n')).toMatch(
      /file_name holds the plant of its row in 3,000 of 3,000 rows/,
    );
    expect(messages(prepare(raw, demo.steps).table, demo).join('\n')).not.toMatch(/holds the plant/);
  });

  it('pollen grains: clover and bramble overlap, heather stands apart', () => {
    const { raw } = made('pollen-grains.csv');
    const { labels, codes } = labelsOf(columnNamed(raw, 'plant'));
    const diameters = numbers(raw, 'diameter_um');
    const mean = (label: string) => {
      const own = diameters.filter((__, row) => labels[codes[row] ?? -1] === label);
      return own.reduce((a, b) => a + b, 0) / own.length;
    };
    expect(Math.abs(mean('clover') - mean('bramble'))).toBeLessThan(1.5);
    expect(mean('heather') - mean('clover')).toBeGreaterThan(6);
  });

  it('scale readings: gaps in time, and a weight that tells tomorrow’s', () => {
    const { demo, raw } = made('scale-readings.csv');
    expect(raw.rowCount).toBeGreaterThan(58_000);
    expect(raw.rowCount).toBeLessThan(60_500);
    expect(columnNamed(raw, 'read_at').kind).toBe('time');
    const threeScales = selectRows(
      raw,
      Int32Array.from({ length: 15_000 }, (__, row) => row),
    );
    const found = messages(threeScales, demo).join('\n');
    expect(found).toMatch(/weight_kg gives the answer away/);
    expect(found).toMatch(/read_at runs in equal steps but for \d+ gaps/);
    const weights = columnNamed(raw, 'weight_kg');
    expect(
      Array.from({ length: raw.rowCount }, (__, row) => isMissing(weights, row)).filter(Boolean).length,
    ).toBeGreaterThan(100);
  });

  it('scale readings: one scale gains more than all others, for it drifts', () => {
    const { raw } = made('scale-readings.csv');
    const { labels, codes } = labelsOf(columnNamed(raw, 'scale'));
    const weight = numbers(raw, 'weight_kg');
    const gain = (label: string) => {
      const own = weight.filter((value, row) => labels[codes[row] ?? -1] === label && !Number.isNaN(value));
      const mean = (values: Float64Array) => values.reduce((a, b) => a + b, 0) / values.length;
      return mean(own.slice(-200)) - mean(own.slice(0, 200));
    };
    const others = labels.filter((label) => label !== 'scale 07').map(gain);
    expect(gain('scale 07')).toBeGreaterThan(Math.max(...others));
    expect(gain('scale 07') - others.reduce((a, b) => a + b, 0) / others.length).toBeGreaterThan(4);
  });
});
