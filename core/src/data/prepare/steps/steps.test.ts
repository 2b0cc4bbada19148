import { describe, expect, it } from '@jest/globals';
import { tableOf, testFile } from '../../../../test/files.js';
import { type Table } from '../../table/table.js';
import type { PlanValue } from '../../sentence/parameter.js';
import { blanked, done, cells, LENGTH, WIDTH, PETAL, SPECIES } from './tables-of-tests.js';

/** pandas and scikit-learn on the same table: test/reference/prepare.py. */
const reference = JSON.parse(new TextDecoder().decode(testFile('reference/prepare.json'))) as Record<
  string,
  Record<string, (number | string | null)[]>
>;

function expectAs(name: string, table: Table, names: Record<string, string> = {}): void {
  for (const [column, expected] of Object.entries(reference[name] ?? {})) {
    const found = cells(table, names[column] ?? column);
    expect(found).toHaveLength(expected.length);
    found.forEach((cell, row) => {
      const other = expected[row] ?? null;
      if (typeof cell === 'number' && typeof other === 'number') expect(cell).toBeCloseTo(other, 10);
      else expect([row, cell]).toEqual([row, other]);
    });
  }
}

describe('steps give what pandas and scikit-learn give', () => {
  const on = (kind: string, values: Record<string, PlanValue>) => done(blanked(), kind, values);

  it('dropping rows', () => {
    expectAs('drop any', on('drop-missing', { how: 'any' }));
    expectAs('drop all', on('drop-missing', { how: 'all', columns: [WIDTH, PETAL] }));
    expectAs('drop repeated', on('drop-repeated', { columns: [LENGTH, WIDTH] }));
    expectAs('drop where', on('drop-where', { condition: `${LENGTH} > 6 and ${WIDTH} < 3` }));
    expectAs('recent days', on('recent-days', { column: 'day', days: 60 }));
  });

  it('dropping outliers', () => {
    expectAs(
      'outliers by quartiles',
      on('drop-outliers', { columns: [WIDTH], rule: 'quartiles', times: 1.5 }),
    );
    expectAs(
      'outliers by deviations',
      on('drop-outliers', { columns: [WIDTH], rule: 'deviations', times: 2 }),
    );
  });

  it.each(['mean', 'median', 'most frequent'])('filling with the %s', (how) => {
    const columns = how === 'most frequent' ? [WIDTH, SPECIES] : [WIDTH];
    expectAs(`fill ${how}`, on('fill', { columns, how }));
  });

  it('filling by group, and by all rows where the group is missing', () => {
    expectAs('fill by group', on('fill', { columns: [WIDTH], how: 'median', group: SPECIES }));
  });

  it('scaling', () => {
    expectAs('scale standard', on('scale', { columns: [WIDTH], how: 'standard' }));
    expectAs('scale min-max', on('scale', { columns: [WIDTH], how: 'min-max' }));
  });

  it.each([
    ['bins width', { how: 'width', count: 5 }],
    ['bins quantiles', { how: 'quantiles', count: 4 }],
  ])('cutting: %s', (name, values) => {
    const before = cells(blanked(), LENGTH) as number[];
    const after = cells(on('bins', { column: LENGTH, ...values }), LENGTH);
    // The reference has numbers of bins: bins in the order of the numbers in them.
    const least = new Map<unknown, number>();
    after.forEach((bin, row) => least.set(bin, Math.min(least.get(bin) ?? Infinity, before[row] ?? 0)));
    const order = [...least].sort(([, a], [, b]) => a - b).map(([bin]) => bin);
    expect(after.map((bin) => order.indexOf(bin))).toEqual(reference[name]?.[LENGTH]);
  });

  it('making dummy columns', () => {
    const labels = Object.keys(reference['dummies all'] ?? {});
    const names = Object.fromEntries(labels.map((label) => [label, `${SPECIES}: ${label}`]));
    expectAs('dummies', on('dummies', { columns: [SPECIES], without: 'first' }), names);
    expectAs('dummies all', on('dummies', { columns: [SPECIES], without: 'none' }), names);
    const first = on('dummies', { columns: [SPECIES], without: 'first' });
    expect(first.columns.some(({ name }) => name === `${SPECIES}: ${labels[0]}`)).toBe(false);
  });

  it('taking dates apart', () => {
    const parts = Object.keys(reference['date parts'] ?? {});
    const names = Object.fromEntries(parts.map((part) => [part, `day_${part}`]));
    expectAs('date parts', on('date-parts', { column: 'day', parts }), names);
    expectAs('days since', on('days-since', { column: 'day', origin: '2024-01-01' }), { days: 'day_days' });
  });

  it('counting words', () => {
    const texts = ['The bees fly', '"bees, BEES and wax"', 'wax', 'no smoke', 'the wax of bees'];
    const table = tableOf(`id,note\n${texts.map((text, i) => `${i},${text}`).join('\n')}\n`);
    const words = Object.keys(reference['word counts'] ?? {});
    const names = Object.fromEntries(words.map((word) => [word, `note: ${word}`]));
    const counted = done(table, 'word-counts', { column: 'note', count: 3 });
    expect(counted.columns).toHaveLength(5);
    expectAs('word counts', counted, names);
  });

  it('computing', () => {
    const formulas: Record<string, string> = {
      ratio: `${WIDTH} / ${LENGTH}`,
      power: `${LENGTH}^2 % 3`,
      log: `log(${WIDTH})`,
      pick: `if(${LENGTH} > 6, ${LENGTH}, -${LENGTH})`,
      rounded: `round(${WIDTH})`,
    };
    let table = blanked();
    for (const [name, formula] of Object.entries(formulas)) table = done(table, 'compute', { name, formula });
    expectAs('formula', table);
  });
});

describe('steps that read cells otherwise', () => {
  const table = tableOf(
    'id,weight,seen,fed,share\n1,"12,5",3.1.2024,yes,10 %\n2,"1.200,25",2024-02-30,no,5%\n3,none,04/02/2024,,7 %\n',
  );

  it('numbers with a decimal comma, percentages, and what does not convert', () => {
    const weights = done(table, 'convert', {
      columns: ['weight'],
      as: 'number with a decimal comma',
      otherwise: 'missing',
    });
    expect(cells(weights, 'weight')).toEqual([12.5, 1200.25, null]);
    const shares = done(table, 'convert', { columns: ['share'], as: 'percentage' });
    expect(cells(shares, 'share')).toEqual([0.1, 0.05, 0.07]);
    expect(() => done(table, 'convert', { columns: ['weight'], as: 'number' })).toThrow(
      '3 cells of weight are none, the first “12,5” in row 1.',
    );
  });

  it('dates in several forms, and a day that there is not', () => {
    const dated = done(table, 'convert', { columns: ['seen'], as: 'date', otherwise: 'missing' });
    expect(cells(dated, 'seen')).toEqual(['2024-01-03', null, '2024-02-04']);
    const american = done(table, 'convert', {
      columns: ['seen'],
      as: 'date, month before day',
      otherwise: 'missing',
    });
    expect(cells(american, 'seen')).toEqual(['2024-03-01', null, '2024-04-02']);
  });

  it('true and false, and values by number', () => {
    expect(cells(done(table, 'convert', { columns: ['fed'], as: 'boolean' }), 'fed')).toEqual([
      'true',
      'false',
      null,
    ]);
    const numbers = [
      ['yes', '1'],
      ['no', '0'],
    ] as const;
    expect(cells(done(table, 'map-to-numbers', { column: 'fed', numbers }), 'fed')).toEqual([1, 0, null]);
    expect(() => done(table, 'map-to-numbers', { column: 'fed', numbers: [['yes', '1']] })).toThrow(
      '“no” has no number.',
    );
  });

  it('values that mean the same, and texts that mean nothing', () => {
    const merged = done(table, 'merge-values', { column: 'fed', values: ['no', 'never'], into: 'not' });
    expect(cells(merged, 'fed')).toEqual(['yes', 'not', null]);
    const blank = done(table, 'missing-markers', { texts: ['none', '2'] });
    expect(cells(blank, 'weight')).toEqual(['12,5', '1.200,25', null]);
    expect(cells(blank, 'id')).toEqual([1, null, 3]);
  });

  it('merges values over several columns in one step, each of them once', () => {
    const answers = tableOf('spring,autumn,note\nn/k,yes,n/k\nyes,unknown,b\nno,n/k,c\n');
    const merged = done(answers, 'merge-values', {
      ...{ column: 'spring', also: ['autumn', 'spring'] },
      ...{ values: ['n/k', 'unknown'], into: 'not known' },
    });
    expect(merged.columns.map(({ name }) => cells(merged, name))).toEqual([
      ['not known', 'yes', 'no'],
      ['yes', 'not known', 'not known'],
      ['n/k', 'b', 'c'],
    ]);
  });
});
