import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { iris, tableOf } from '../../../test/files.js';
import { cellText, type Table } from '../table/table.js';
import { firstProblem, prepare } from './prepare.js';
import { previewPreparation } from './preview.js';
import { newPlan, shownParameters } from '../sentence/sentence.js';
import { STEP_KINDS, stepKindOf } from './registry.js';
import type { Step } from './step.js';

const hives = tableOf(
  'id,apiary,weight,fed,lost\nh1,A,10,no,0\nh2,A,,no feeder fitted,1\nh3,B,12,yes,0\nh3,B,12,yes,0\nh4,,9,no,\n',
);

const text = ({ columns, rowCount }: Table): Record<string, (string | null)[]> =>
  Object.fromEntries(
    columns.map((column) => [
      column.name,
      Array.from({ length: rowCount }, (_, row) => cellText(column, row)),
    ]),
  );

const STEPS = {
  label: { kind: 'drop-missing', values: { how: 'any', columns: ['lost'] } },
  twice: { kind: 'drop-repeated', values: { columns: [] } },
  feeder: { kind: 'merge-values', values: { values: ['no feeder fitted'], column: 'fed', into: 'no' } },
  fill: {
    kind: 'fill',
    values: { columns: ['weight'], how: 'median', value: '', group: '', indicator: 'no' },
  },
  identifier: { kind: 'drop-columns', values: { columns: ['id'] } },
} as const satisfies Record<string, Step>;

describe('a preparation', () => {
  it('does its steps in order, and knows of each row where it comes from', () => {
    const { table, origin, effects } = prepare(hives, [STEPS.label, STEPS.twice, STEPS.feeder, STEPS.fill]);
    expect(text(table)).toEqual({
      id: ['h1', 'h2', 'h3'],
      apiary: ['A', 'A', 'B'],
      weight: ['10', '11', '12'],
      fed: ['no', 'no', 'yes'],
      lost: ['0', '1', '0'],
    });
    expect([...origin]).toEqual([0, 1, 2]);
    expect(effects.map(({ fallen, changed }) => [fallen, changed])).toEqual([
      [1, []],
      [1, []],
      [0, [{ column: 'fed', cells: 1 }]],
      [0, [{ column: 'weight', cells: 1 }]],
    ]);
    expect(effects.map((effect) => effect.learns)).toEqual([false, false, false, true]);
  });

  it('leaves the raw table as it was: taking every step back gives it again', () => {
    const before = text(hives);
    prepare(hives, Object.values(STEPS));
    expect(text(hives)).toEqual(before);
    expect(text(prepare(hives, []).table)).toEqual(before);
    expect(text(prepare(hives, [{ ...STEPS.label, off: true }]).table)).toEqual(before);
  });

  it('comes to the same whichever of two independent steps is first', () => {
    const independent = [STEPS.label, STEPS.feeder, STEPS.identifier];
    fc.assert(
      fc.property(fc.shuffledSubarray(independent, { minLength: 3 }), (steps) => {
        expect(text(prepare(hives, steps).table)).toEqual(text(prepare(hives, independent).table));
      }),
    );
  });

  it('gives the same when it is done again, whatever its steps', () => {
    const table = iris();
    const seeded = STEP_KINDS.filter(({ parameters }) => 'seed' in parameters);
    fc.assert(
      fc.property(fc.shuffledSubarray(seeded), fc.integer({ min: 0, max: 1e6 }), (kinds, seed) => {
        const steps = kinds.map((kind): Step => {
          const step = newPlan(kind, table.columns);
          const columns = 'columns' in kind.parameters ? { columns: [table.columns[0]?.name ?? ''] } : {};
          const column = 'column' in kind.parameters ? { column: table.columns[0]?.name ?? '' } : {};
          return { ...step, values: { ...step.values, ...columns, ...column, seed } };
        });
        expect(text(prepare(table, steps).table)).toEqual(text(prepare(table, steps).table));
      }),
      { numRuns: 20 },
    );
  });

  it('on another file, does the steps that fit and says of the others why they do not', () => {
    const other = tableOf('id,weight,lost\nk1,5,0\nk2,,1\n');
    const steps = [STEPS.label, STEPS.feeder, STEPS.fill];
    const { table, effects } = prepare(other, steps);
    expect(text(table)['weight']).toEqual(['5', '5']);
    expect(effects[1]?.problem).toEqual({ message: 'There is no column “fed”.', field: 'column' });
    expect(firstProblem(steps, effects)?.message).toBe(
      'Step 2, merge values that mean the same: There is no column “fed”.',
    );
    expect(firstProblem([STEPS.label], prepare(other, [STEPS.label]).effects)).toBeNull();
  });

  it.each([
    [{ kind: 'sieve', values: {} }, 'There is no step “sieve”.'],
    [{ kind: 'drop-columns', values: { columns: [] } }, 'Choose the columns to drop.'],
    [{ kind: 'drop-columns', values: {} }, 'the columns to drop: names of columns are needed.'],
    [
      { kind: 'drop-columns', values: { columns: ['id', 'apiary', 'weight', 'fed', 'lost'] } },
      'No column would be left.',
    ],
    [{ kind: 'drop-where', values: { condition: 'weight > 0 or missing(weight)' } }, 'No row would be left.'],
    [
      { kind: 'scale', values: { columns: ['fed'], how: 'standard', factor: 1 } },
      'fed holds categories; the columns of numbers must hold numbers.',
    ],
    [
      { kind: 'scale', values: { columns: ['weight'], how: 'sideways', factor: 1 } },
      'how is one of standard',
    ],
    [{ kind: 'sample', values: { rows: 1.5, seed: 1 } }, 'how many rows: a whole number is needed.'],
    [{ kind: 'sample', values: { rows: 0, seed: 1 } }, 'how many rows is at least 1.'],
    [{ kind: 'date-parts', values: { column: 'id', parts: ['year'], holidays: [] } }, 'id holds'],
    [
      { kind: 'add-leak', values: { name: 'fed', column: 'lost', share: 0, seed: 1 } },
      'There is a column “fed” already.',
    ],
  ])('refuses a step that cannot be: %j', (step: Step, message) => {
    const { table, effects } = prepare(hives, [step]);
    expect(effects[0]?.problem?.message).toContain(message);
    expect(table).toBe(hives);
  });
});

describe('the examples of a step', () => {
  it('are the cells that it changes, beside what they were', () => {
    const preview = previewPreparation(hives, [STEPS.twice, STEPS.fill], 1);
    expect(preview.examples?.columns[0]).toBe('weight');
    expect(preview.examples?.rows).toEqual([
      expect.objectContaining({
        row: 2,
        fate: 'stays',
        cells: expect.arrayContaining([{ before: null, after: '10', there: 'both' }]),
      }),
    ]);
    expect(preview.rows).toBe(4);
  });

  it('are the rows that fall out, by their numbers in the raw table', () => {
    const { examples } = previewPreparation(hives, [STEPS.twice, STEPS.label], 1);
    expect(examples?.rows.map(({ row, fate }) => [row, fate])).toEqual([[5, 'falls out']]);
  });

  it('come with the columns that the step is given', () => {
    const { given } = previewPreparation(hives, [STEPS.identifier, STEPS.feeder], 1);
    expect(given.map(({ name }) => name)).toEqual(['apiary', 'weight', 'fed', 'lost']);
    expect(given.find(({ name }) => name === 'fed')?.values).toEqual(['no', 'no feeder fitted', 'yes']);
  });
});

describe('every kind of step', () => {
  it.each(STEP_KINDS.map((kind) => [kind.key, kind] as const))(
    '%s has a sentence whose words are its parameters',
    (_, kind) => {
      const step = newPlan(kind, hives.columns);
      for (const key of shownParameters(kind, step)) expect(Object.keys(kind.parameters)).toContain(key);
      for (const [key, parameter] of Object.entries(kind.parameters)) {
        if (parameter.type !== 'choice') continue;
        for (const { value } of parameter.choices) {
          const other = { ...step, values: { ...step.values, [key]: value } };
          for (const shown of shownParameters(kind, other))
            expect(Object.keys(kind.parameters)).toContain(shown);
        }
      }
      expect(stepKindOf(step)).toBe(kind);
    },
  );
});

describe('numbers in another form', () => {
  const table = tableOf('x\n"1.234,5"\n"25"\n"7,5"\n');
  const converted = (cells: readonly string[], as: string) => () =>
    text(
      prepare(tableOf(`x\n${cells.map((cell) => `"${cell}"`).join('\n')}\n`), [
        { kind: 'convert', values: { columns: ['x'], as, otherwise: 'refuse' } },
      ]).table,
    )['x'];

  const problem = (cells: readonly string[], as: string) => {
    const steps = [{ kind: 'convert', values: { columns: ['x'], as, otherwise: 'refuse' } }];
    const { effects } = prepare(tableOf(`x\n${cells.map((cell) => `"${cell}"`).join('\n')}\n`), steps);
    return firstProblem(steps, effects)?.message;
  };

  it('are read where they fit it, and refused with the cell where they do not', () => {
    expect(text(table)['x']).toEqual(['1.234,5', '25', '7,5']);
    expect(converted(['1.234,5', '25', '7,5', '-1 000'], 'number with a decimal comma')()).toEqual([
      '1234.5',
      '25',
      '7.5',
      '-1000',
    ]);
    expect(problem(['7,5', '2.5'], 'number with a decimal comma')).toContain(
      '1 cell of x is none, the first “2.5” in row 2',
    );
    expect(problem(['1,234', 'n5', '12,34'], 'number with commas between thousands')).toContain(
      '2 cells of x are none, the first “n5” in row 2',
    );
    expect(converted(['1,234.5', '12'], 'number with commas between thousands')()).toEqual(['1234.5', '12']);
  });

  it('in bins stay beside them where that is asked for, and not where nothing is said of it', () => {
    const cut = (place: Record<string, string>) =>
      prepare(tableOf('x,y\n1,a\n2,b\n3,c\n4,d\n'), [
        { kind: 'bins', values: { column: 'x', how: 'width', count: 2, bounds: [], ...place } },
      ]).table;
    const bins = ['1 to below 2.5', '1 to below 2.5', '2.5 to 4', '2.5 to 4'];
    expect(text(cut({ place: 'beside' }))).toEqual({
      x: ['1', '2', '3', '4'],
      y: ['a', 'b', 'c', 'd'],
      x_bin: bins,
    });
    expect(text(cut({ place: 'instead' }))['x']).toEqual(bins);
    expect(text(cut({}))).toEqual(text(cut({ place: 'instead' })));
    const taken = prepare(tableOf('x,x_bin\n1,a\n2,b\n'), [
      { kind: 'bins', values: { column: 'x', how: 'width', count: 2, bounds: [], place: 'beside' } },
    ]);
    expect(taken.effects[0]?.problem?.message).toContain('x_bin');
  });

  it('in bins have as many digits as tell the bins apart', () => {
    const days = ['2460000.1', '2460000.2', '2460000.3', '2460000.4'];
    const { table: cut } = prepare(tableOf(`x\n${days.join('\n')}\n`), [
      { kind: 'bins', values: { column: 'x', how: 'given', count: 3, bounds: days } },
    ]);
    expect(new Set(text(cut)['x']).size).toBe(3);
    expect(text(cut)['x']?.[0]).toBe('2460000.1 to below 2460000.2');
  });
});
