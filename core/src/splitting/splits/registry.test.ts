import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { tableOf } from '../../../test/files.js';
import { draw } from '../../../test/plans.js';
import { newPlan, shownParameters } from '../../data/sentence/sentence.js';
import type { Roles } from '../../data/table/roles.js';
import { splitConsequences } from '../../audit/consequences/split-consequences.js';
import { redrawn, seedSensitivity } from '../../audit/consequences/seed-sensitivity.js';
import { begunPlan } from '../../data/sentence/begun.js';
import { SPLITTERS, splitterOf } from './registry.js';
import type { SplitPlan } from './splitter.js';
import { splitRows } from './split.js';
import { usableRows } from '../parts/usable.js';

const DAYS = 40;
const day = (i: number) => new Date(Date.UTC(2026, 0, 1 + i)).toISOString().slice(0, 10);
/** Forty days in order, hives by turns, a weight that rises. */
const table = tableOf(
  `id,day,hive,weight,lost\n${Array.from({ length: DAYS }, (_, i) => `h${i},${day(i)},${'ABCD'[i % 4]},${i},${i % 3 ? 'no' : 'yes'}`).join('\n')}\n`,
);
const roles: Roles = {
  target: 'lost',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: 'hive',
  time: 'day',
  weight: null,
  withheld: [],
};
const letters = (kind: string, values: Record<string, number | string | readonly string[]>) => {
  const begun = begunPlan(splitterOf({ kind }), table.columns, roles);
  const { parts } = splitRows(table, { kind, values: { ...begun.values, ...values } });
  return Array.from(parts, (part) => 'TVH'[part] ?? '-').join('');
};

describe('ways of splitting', () => {
  it('have sentences of nothing but their own parameters, whatever is chosen', () => {
    for (const kind of SPLITTERS) {
      for (const sized of ['percent', 'rows']) {
        const plan = newPlan(kind, table.columns);
        const shown = shownParameters(kind, { ...plan, values: { ...plan.values, sized } });
        expect(shown.length).toBeGreaterThan(0);
        for (const key of shown) expect(Object.keys(kind.parameters)).toContain(key);
      }
    }
  });

  it('begin with the columns that the roles suggest', () => {
    const begun = begunPlan(splitterOf({ kind: 'draw' }), table.columns, roles);
    expect(begun.values).toMatchObject({ stratify: 'lost', group: 'hive', training: 80, heldout: 20 });
  });

  it('in order of time: what is held out is latest, and a gap is left out', () => {
    expect(letters('time', { training: 70, validation: 10, heldout: 20 })).toBe(
      'T'.repeat(28) + 'VVVV' + 'H'.repeat(8),
    );
    expect(letters('time', { gap: 3 })).toBe(`${'T'.repeat(29)}---${'H'.repeat(8)}`);
  });

  it('by the reserve: its rows are held out, whatever the others are for', () => {
    const plan = begunPlan(splitterOf({ kind: 'reserve' }), table.columns, roles);
    const reserve = Uint8Array.from({ length: table.rowCount }, (_, row) => Number(row % 7 === 0));
    const { parts, method } = splitRows(table, plan, undefined, reserve);
    expect(method).toMatch(/^reserve@1/);
    expect(Array.from(parts, (part) => Number(part === 2))).toEqual(Array.from(reserve));
    expect(() => splitRows(table, plan)).toThrow('This data set has no reserve yet');
  });

  it('in order of time, at the change of time that is nearest, the earlier one of two as near', () => {
    const times = (days: readonly number[]) =>
      tableOf(
        `day,lost\n${days.map((of, row) => `${day(of)},${row % 2 === 0 ? 'yes' : 'no'}`).join('\n')}\n`,
      );
    const cut = (days: readonly number[]) => {
      const values = { sized: 'percent', training: 50, validation: 0, heldout: 50, time: 'day', gap: 0 };
      const begun = begunPlan(splitterOf({ kind: 'time' }), times(days).columns, { ...roles, time: 'day' });
      const { parts } = splitRows(times(days), { kind: 'time', values: { ...begun.values, ...values } });
      return Array.from(parts, (part) => 'TVH'[part] ?? '-').join('');
    };
    // Five rows are wanted; the day of rows 4 to 6 cannot be cut, nor can that of rows 3 to 5, 4 to 7, or 2 to 5.
    expect(cut([0, 1, 2, 3, 4, 4, 5, 6, 7, 8])).toBe('TTTTHHHHHH');
    expect(cut([0, 1, 2, 3, 3, 3, 4, 5, 6, 7])).toBe('TTTTTTHHHH');
    expect(cut([0, 1, 2, 3, 4, 4, 4, 4, 5, 6])).toBe('TTTTHHHHHH');
    expect(cut([0, 1, 2, 2, 2, 2, 3, 4, 5, 6])).toBe('TTTTTTHHHH');
  });

  it('at a point in time: it and what is later is held out', () => {
    expect(letters('cut-off', { cutOff: day(36) })).toBe('T'.repeat(36) + 'HHHH');
    expect(letters('cut-off', { cutOff: ` ${day(36)} ` })).toBe(letters('cut-off', { cutOff: day(36) }));
    expect(() => letters('cut-off', { cutOff: ' ' })).toThrow('Write the first time that is held out.');
    expect(() => letters('cut-off', { cutOff: 'spring' })).toThrow('“spring” is no date');
    expect(() => letters('cut-off', { cutOff: '2030-01-01' })).toThrow('heldout has no rows');
  });

  it('every n-th row is held out', () => {
    expect(letters('every', { every: 4 })).toBe('TTTH'.repeat(10));
  });

  it('in the order of the rows, sized by rows', () => {
    expect(letters('first', { sized: 'rows', validationRows: 5, heldoutRows: 10 })).toBe(
      'T'.repeat(25) + 'V'.repeat(5) + 'H'.repeat(10),
    );
    expect(() => letters('first', { sized: 'rows', heldoutRows: 41 })).toThrow(
      'The parts take 41 rows, and there are 40.',
    );
  });

  it('by the values of a column', () => {
    expect(letters('column', { column: 'hive', heldout: ['D'], validation: ['B'] })).toBe('TVTH'.repeat(10));
    expect(letters('column', { column: 'hive', heldout: ['A', 'C'], validation: [] })).toBe(
      'HTHT'.repeat(10),
    );
    expect(() => letters('column', { heldout: ['E'] })).toThrow('No row has “E” in hive.');
    expect(() => letters('column', { heldout: ['A'], validation: ['A'] })).toThrow(
      '“A” is held out already.',
    );
    expect(() => letters('column', { heldout: ['A', 'B', 'C', 'D'] })).toThrow(
      'No row would be left for training.',
    );
  });

  it('by the identifier: rows that come later move nobody', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 8 }), fc.integer({ min: 20, max: DAYS }), (salt, n) => {
        const fewer = {
          rowCount: n,
          columns: tableOf(`id\n${Array.from({ length: n }, (_, i) => `h${i}`).join('\n')}\n`).columns,
        };
        const { values } = begunPlan(splitterOf({ kind: 'key' }), table.columns, roles);
        const plan = { kind: 'key', values: { ...values, salt, training: 50, heldout: 50 } };
        const all = splitRows(table, plan).parts;
        expect(splitRows(fewer, plan).parts).toEqual(all.slice(0, n));
      }),
      { numRuns: 20 },
    );
  });
});

describe('groups that are split across parts', () => {
  it('are a fault, but to be judged where the later part is to be predicted from the earlier', () => {
    const used = usableRows(table, roles);
    const groups = (plan: SplitPlan) =>
      splitConsequences(table, roles, used, splitRows(table, plan, used.usable)).checks.find(
        ({ id }) => id === 'groups',
      )?.outcome;
    expect(groups(draw())).toBe('fails');
    expect(groups(begunPlan(splitterOf({ kind: 'time' }), table.columns, roles))).toBe('unsure');
    expect(groups(draw({ group: 'hive', shares: { training: 50, validation: 0, heldout: 50 } }))).toBe(
      'holds',
    );
  });
});

describe('the record of twenty draws', () => {
  const used = usableRows(table, roles);

  it('begins with the plan itself and goes through the next seeds', () => {
    const { label, draws } = seedSensitivity(table, roles, used, draw({ seed: 7 }));
    expect(label).toBe('yes');
    expect(draws.map(({ seed }) => seed)).toEqual(Array.from({ length: 20 }, (_, i) => String(7 + i)));
    const { parts } = splitRows(table, draw({ seed: 9 }), used.usable);
    const heldout = Array.from(parts.keys()).filter((row) => parts[row] === 2);
    expect(draws[2]?.heldout).toBe(heldout.length);
    expect(draws[2]?.target).toBeCloseTo(heldout.filter((row) => row % 3 === 0).length / heldout.length, 12);
    expect(['day', 'weight']).toContain(draws[0]?.drift?.column);
  });

  it('is the draws that come one after another, whether by seed or by text', () => {
    const key = begunPlan(splitterOf({ kind: 'key' }), table.columns, roles);
    for (const plan of [draw({ seed: 2 ** 31 - 2 }), key]) {
      const seeds = seedSensitivity(table, roles, used, plan).draws.map(({ seed }) => seed);
      expect(new Set(seeds).size).toBe(20);
      let next = plan;
      for (const seed of seeds) {
        expect(String(next.values['seed'] ?? next.values['salt'])).toBe(seed);
        next = redrawn(next, 1);
      }
    }
  });

  it('does not vary in class shares when they are made equal', () => {
    const spread = (stratify: string) => {
      const { draws } = seedSensitivity(table, roles, used, draw({ stratify }));
      const shares = draws.map(({ target }) => target ?? 0);
      return Math.max(...shares) - Math.min(...shares);
    };
    expect(spread('lost')).toBe(0);
    expect(spread('')).toBeGreaterThan(0.1);
  });

  it('is refused for a plan without luck', () => {
    const plan = begunPlan(splitterOf({ kind: 'time' }), table.columns, roles);
    expect(() => seedSensitivity(table, roles, used, plan)).toThrow('gives the same result each time');
  });
});
