import { describe, expect, it } from '@jest/globals';
import { iris, tableOf, testFile } from '../../../../test/files.js';
import { cellText, columnNamed, isCoded, type Column, type Table } from '../../table/table.js';
import { prepare } from '../prepare.js';
import type { PlanValue } from '../../sentence/parameter.js';
import { newPlan } from '../../sentence/sentence.js';
import { STEP_KINDS } from '../registry.js';

/** pandas and scikit-learn on the same table: test/reference/prepare.py. */
const reference = JSON.parse(new TextDecoder().decode(testFile('reference/prepare.json'))) as Record<
  string,
  Record<string, (number | string | null)[]>
>;

const HOUR = 3_600_000;

/** Iris with the blanks of the reference, and a column of times. */
function blanked(): Table {
  const { rowCount, columns } = iris();
  const [length, width, petal, petalWidth, species] = columns;
  if (!length || !width || !petal || !petalWidth || !species) throw new Error('iris has five columns');
  const blank = (column: Column, isBlank: (row: number) => boolean): Column =>
    isCoded(column)
      ? { ...column, codes: column.codes.map((code, row) => (isBlank(row) ? -1 : code)) }
      : { ...column, values: column.values.map((value, row) => (isBlank(row) ? NaN : value)) };
  const start = Date.UTC(2024, 1, 25, 5, 30);
  return {
    rowCount,
    columns: [
      length,
      blank(width, (row) => row % 7 === 3),
      blank(petal, (row) => row % 11 === 5),
      petalWidth,
      blank(species, (row) => row % 13 === 8),
      {
        kind: 'time',
        name: 'day',
        values: Float64Array.from({ length: rowCount }, (_, row) => start + row * 31 * HOUR),
        format: { separator: 'T', seconds: true, zulu: false },
      },
    ],
  };
}

/** What a step makes of a table; the values of its parameters that are not given are those it begins with. */
function done(table: Table, kind: string, values: Record<string, PlanValue>): Table {
  const found = STEP_KINDS.find(({ key }) => key === kind);
  if (!found) throw new Error(`no step ${kind}`);
  const step = newPlan(found, table.columns);
  const prepared = prepare(table, [{ kind, values: { ...step.values, ...values } }]);
  const problem = prepared.effects[0]?.problem;
  if (problem) throw new Error(problem.message);
  return prepared.table;
}

const cells = (table: Table, name: string): (number | string | null)[] => {
  const column = columnNamed(table, name);
  return Array.from({ length: table.rowCount }, (_, row) => {
    const text = cellText(column, row);
    return text === null || column.kind !== 'number' ? text : Number(text);
  });
};

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

const [LENGTH, WIDTH, PETAL, , SPECIES] = iris().columns.map(({ name }) => name) as [
  string,
  string,
  string,
  string,
  string,
];

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
});

describe('steps on categories', () => {
  const table = tableOf('id,forage\n1,lime\n2,lime\n3,ivy\n4,heather\n5,\n');

  it('put rare ones together, or drop their rows; a missing one is not rare', () => {
    const together = done(table, 'rare-categories', { column: 'forage', least: 2, name: 'other' });
    expect(cells(together, 'forage')).toEqual(['lime', 'lime', 'other', 'other', null]);
    const dropped = done(table, 'rare-categories', { column: 'forage', least: 2, how: 'drop' });
    expect(cells(dropped, 'id')).toEqual([1, 2, 5]);
  });

  it('say where cells were filled', () => {
    const filled = done(table, 'fill', {
      columns: ['forage'],
      how: 'constant',
      value: 'unknown',
      indicator: 'yes',
    });
    expect(cells(filled, 'forage').at(-1)).toBe('unknown');
    expect(cells(filled, 'forage_missing')).toEqual([0, 0, 0, 0, 1]);
  });
});

describe('flaws on purpose', () => {
  const table = blanked();

  it('blanks: about the share that was asked for, in the columns alone, the same for a seed', () => {
    const blank = done(table, 'add-blanks', { columns: [LENGTH], share: 20, seed: 5 });
    const missing = cells(blank, LENGTH).filter((cell) => cell === null).length;
    // 150 cells at 20 %: 30, give or take four standard deviations (common practice).
    expect(Math.abs(missing - 30)).toBeLessThan(4 * Math.sqrt(150 * 0.2 * 0.8));
    expect(cells(blank, WIDTH)).toEqual(cells(table, WIDTH));
    expect(cells(done(table, 'add-blanks', { columns: [LENGTH], share: 20, seed: 5 }), LENGTH)).toEqual(
      cells(blank, LENGTH),
    );
  });

  it('noise: as wide as was asked for, about 0', () => {
    const noisy = done(table, 'add-noise', { columns: [LENGTH], share: 50, seed: 5 });
    const differences = cells(noisy, LENGTH).map(
      (cell, row) => Number(cell) - Number(cells(table, LENGTH)[row]),
    );
    const mean = differences.reduce((a, b) => a + b, 0) / 150;
    const sd = Math.sqrt(differences.reduce((sum, d) => sum + (d - mean) ** 2, 0) / 149);
    // The deviation of sepal length is 0.828 (R 4.2, from memory): half of it, within four standard errors.
    expect(Math.abs(sd - 0.414)).toBeLessThan((4 * 0.414) / Math.sqrt(300));
    expect(Math.abs(mean)).toBeLessThan((4 * 0.414) / Math.sqrt(150));
  });

  it('repeated rows: as many as were asked for, each after its row', () => {
    const repeated = done(table, 'add-repeats', { share: 10, seed: 5 });
    expect(repeated.rowCount).toBe(165);
    const { effects } = prepare(table, [{ kind: 'add-repeats', values: { share: 10, seed: 5 } }]);
    expect(effects[0]).toMatchObject({ fallen: 0, repeated: 15 });
  });

  it('a leak: nothing of it wrong gives the classes away', () => {
    const leaked = done(table, 'add-leak', { name: 'hint', column: SPECIES, share: 0, seed: 5 });
    const species = cells(table, SPECIES);
    const labels = [...new Set(species.filter((cell) => cell !== null))].sort();
    expect(cells(leaked, 'hint')).toEqual(
      species.map((cell) => (cell === null ? null : labels.indexOf(cell))),
    );
  });
});
