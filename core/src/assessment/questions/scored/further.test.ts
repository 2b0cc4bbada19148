import { describe, expect, it } from '@jest/globals';
import { asked, fileOf } from '../../../../test/asked.js';
import { bytesOf, tableOf, testFile } from '../../../../test/files.js';
import { draw } from '../../../../test/plans.js';
import { PUBLIC_SECRET } from '../../../foundation/random/secret.js';
import { readCsv } from '../../../data/formats/csv/read.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import type { Roles } from '../../../data/table/roles.js';
import type { Table } from '../../../data/table/table.js';
import { disclose } from '../../disclosure/disclose.js';
import { FEEDBACK, FINAL } from '../../material/held-out.js';
import type { Material } from '../../material/material.js';
import { Body } from '../contract/body.js';
import type { PredictionsQuestion } from '../predictions/question.js';
import { questionKindOf } from '../registry.js';
import type { FurtherFigure } from './further.js';

interface Expected {
  readonly given: number;
  readonly cases: readonly ({
    readonly metric: string;
    readonly groups: Readonly<Record<string, number>>;
  } & Readonly<Record<'all' | 'value' | 'where' | 'worst' | 'gap', number>>)[];
}
const reference = JSON.parse(new TextDecoder().decode(testFile('reference/subgroups.json'))) as Expected;
const text = new TextDecoder().decode(testFile('reference/subgroups.csv'));
const table = readCsv(bytesOf(text), { file: 'subgroups.csv' }).table;
const roles: Roles = {
  ...{ target: 'survived', task: 'binary', positive: 'yes', identifier: 'colony' },
  ...{ group: null, time: null, weight: null, withheld: ['p'] },
};
const material = (of: Table = table, given = reference.given): Material => {
  const rows = Array.from({ length: of.rowCount }, (_, row) => row);
  return {
    ...{ table: of, roles, plan: draw(), folds: null, secret: PUBLIC_SECRET, curves: {}, references: [] },
    parts: Int8Array.from(rows, (row) => (row < given ? 0 : 2)),
    division: Uint8Array.from(rows, (row) => (row < given ? 0 : FINAL)),
  };
};
/** The file that the reference was computed of: the probabilities of the held-out rows. */
const predictions = (p: (cell: number, row: number) => number = (cell) => cell) =>
  fileOf(
    `colony,probability\n${text
      .trimEnd()
      .split('\n')
      .slice(1 + reference.given)
      .map((line) => line.split(','))
      .map((cells, row) => `${cells[0]},${p(Number(cells[4]), row)}`)
      .join('\n')}\n`,
  );

const ON: Readonly<Record<string, Plan>> = {
  all: { kind: 'all', values: {} },
  value: { kind: 'value', values: { column: 'region', value: 'hill' } },
  where: { kind: 'where', values: { condition: 'hives > 5' } },
  worst: { kind: 'worst', values: { column: 'region' } },
  gap: { kind: 'gap', values: { column: 'region' } },
};
const lower = { nothing: 1.5, most: 0.4, all: 0.1, mostMarks: 2, marks: 3 };
const higher = { nothing: 0.5, most: 0.9, all: 1, mostMarks: 2, marks: 3 };
const further = (metric: string, on: string, over: Partial<FurtherFigure> = {}): FurtherFigure => ({
  metric,
  on: ON[on] ?? { kind: on, values: {} },
  scheme: on === 'gap' || metric === 'log_loss' ? { ...lower, nothing: on === 'gap' ? 0.5 : 1.5 } : higher,
  ...over,
});
const question = (...figures: FurtherFigure[]): PredictionsQuestion => ({
  ...{ id: 'q1', kind: 'predictions', title: 'Predict', text: '', metric: 'accuracy' },
  scheme: { nothing: 0.5, most: 0.9, all: 1, mostMarks: 8, marks: 10 },
  ...(figures.length === 0 ? {} : { further: figures }),
});

describe('further figures', () => {
  it.each(
    reference.cases.flatMap((one) =>
      ['all', 'value', 'where', 'worst', 'gap'].map((on) => [one.metric, on, one] as const),
    ),
  )('%s, %s: as scikit-learn 1.2.1 has it', (metric, on, expected) => {
    const { scored, marks, outOf } = asked(
      question(further('log_loss', 'all'), further(metric, on)),
      material(),
    ).hand({ file: predictions() });
    const found = scored?.further?.[1];
    expect(found?.score).toBeCloseTo(expected[on as 'all'], 9);
    if (on === 'worst' || on === 'gap')
      expect(Object.fromEntries((found?.groups ?? []).map(({ label, score }) => [label, score]))).toEqual(
        Object.fromEntries(
          Object.entries(expected.groups).map(([label, score]) => [label, expect.closeTo(score, 9)]),
        ),
      );
    else expect(found?.groups).toEqual([]);
    const { low, high } = found?.interval ?? {};
    expect(low).toBeLessThanOrEqual(expected[on as 'all'] + 1e-9);
    expect(high).toBeGreaterThanOrEqual(expected[on as 'all'] - 1e-9);
    expect(outOf).toBe(16);
    expect(marks).toBeCloseTo(
      (scored?.first ?? 0) + (scored?.further ?? []).reduce((sum, one) => sum + one.marks, 0),
      9,
    );
  });

  it('earn marks along their own lines, the first one beside them', () => {
    const { scored, marks } = asked(question(further('accuracy', 'value')), material()).hand({
      file: predictions(),
    });
    // 0.68 is 0.18 of the 0.4 from nothing to most, for 8 marks; 0.76 of 25 rows lies above chance and its line begins at
    // the floor.
    const [hill] = scored?.further ?? [];
    const start = hill?.line.nothing ?? 0;
    expect(start).toBeGreaterThan(0.5);
    expect(hill?.marks).toBeCloseTo(Math.max(0, (2 * (0.76 - start)) / (0.9 - start)), 2);
    expect(marks).toBeCloseTo((scored?.first ?? 0) + (hill?.marks ?? 0), 9);
  });

  it('show nothing before the return, and no subgroup after it', () => {
    const result = asked(question(further('accuracy', 'worst')), material()).hand({ file: predictions() });
    const moment = { policy: 'everything', shown: null, latePercent: 0, adjustment: null } as const;
    const open = JSON.stringify(disclose(result, { ...moment, returned: false }));
    expect(open).not.toMatch(/further|worst|coast/);
    const { scored } = disclose(result, { ...moment, returned: true });
    expect(scored?.final?.further).toMatchObject([
      { title: 'accuracy in the worst subgroup by region', rows: 150 },
    ]);
    expect(JSON.stringify(scored)).not.toContain('coast');
  });

  it('a constant file earns nothing, and what guesses reach no larger share than the first figure', () => {
    const all = question(
      further('accuracy', 'value'),
      further('recall', 'gap', { scheme: { nothing: 0.5, most: 0.2, all: 0.1, mostMarks: 2, marks: 3 } }),
    );
    const constant = asked(all, material()).hand({ file: predictions(() => 0.9) });
    expect(constant.scored?.further?.map(({ score, marks }) => [score, marks])).toEqual([
      [expect.any(Number), 0],
      [0, 0],
    ]);
    expect(constant.marks).toBe(0);
    // Nearly constant: the gap of recall is small, and shows nothing.
    const nearly = asked(all, material()).hand({ file: predictions((_, row) => (row === 3 ? 0.1 : 0.9)) });
    expect(nearly.scored?.first).toBe(0);
    expect(nearly.scored?.further?.[1]?.score).toBeLessThan(0.1);
    expect(nearly.scored?.further?.[1]?.marks).toBe(0);
    // Recall is 1 where everything is called positive: its marks are those of the first figure in proportion.
    const { scored } = asked(question(further('recall', 'where')), material()).hand({ file: predictions() });
    expect(scored?.further?.[0]?.score).toBeCloseTo(0.9242, 4);
    expect(scored?.first).toBeGreaterThan(0);
    expect(scored?.further?.[0]?.marks).toBeCloseTo((3 * (scored?.first ?? 0)) / 10, 2);
  });

  it('what decides which submission counts stays on the scale of all marks, and knows the feedback rows alone', () => {
    const halved = {
      ...material(),
      division: Uint8Array.from({ length: table.rowCount }, (_, row) =>
        row < reference.given ? 0 : row % 2 === 0 ? FEEDBACK : FINAL,
      ),
    };
    const one = asked(question(), halved).hand({ file: predictions() });
    const two = asked(question(further('accuracy', 'value')), halved).hand({ file: predictions() });
    expect(two.standing).toBeCloseTo(((one.standing ?? 0) * 13) / 10, 1);
  });

  it('files give probabilities where any figure needs them, and students read what is marked', () => {
    const { rules, sheet } = asked(question(further('roc_auc', 'where')), material());
    expect(rules).toMatchObject({ needs: 'probabilities' });
    expect(JSON.stringify(rules)).not.toContain('nothing":0.5,"most":0.9,"all":1,"mostMarks":2');
    expect(sheet().checked).toContain(
      'Also marked, on the final rows: area under the ROC curve where hives > 5 (3 marks). They are shown when the exercise is returned.',
    );
  });
});

describe('a further figure that cannot be', () => {
  const refused = (figure: FurtherFigure, message: string, field: string, from = material()) => {
    expect.assertions(2);
    try {
      asked(question(figure), from);
    } catch (error) {
      expect((error as Error).message).toContain(message);
      expect(error).toMatchObject({ place: { field } });
    }
  };
  it('of so few final rows that they show', () => {
    refused(
      further('accuracy', 'where', { on: { kind: 'where', values: { condition: 'hives > 11' } } }),
      'is of 0 final rows: at least 10 are needed.',
      'further.0.on',
    );
  });
  it('that differs from another by so few rows that it shows them', () => {
    const few = tableOf(
      `colony,region,survived,p\n${Array.from({ length: 100 }, (_, i) => `c${i},${i > 95 ? 'hill' : 'north'},${i % 3 === 0 ? 'no' : 'yes'},0`).join('\n')}\n`,
    );
    refused(
      further('accuracy', 'value', { on: { kind: 'value', values: { column: 'region', value: 'north' } } }),
      '4 final rows would be the difference between two of the figures',
      'further.0.on',
      material(few, 40),
    );
  });
  it.each(['survived', 'p', 'colony'])('by %s, which students do not have or which names rows', (column) => {
    refused(
      further('accuracy', 'worst', { on: { kind: 'worst', values: { column } } }),
      `There is no column “${column}”.`,
      'further.0.column',
    );
  });
  it('by a condition of the target', () => {
    refused(
      further('accuracy', 'where', { on: { kind: 'where', values: { condition: 'survived == "yes"' } } }),
      'survived',
      'further.0.condition',
    );
  });
  it('that is undefined whatever is predicted', () => {
    const one = tableOf(
      `colony,region,survived,p\n${Array.from({ length: 100 }, (_, i) => `c${i},${i % 2 === 0 ? 'hill' : 'north'},${i % 2 === 0 || i % 3 === 0 ? 'no' : 'yes'},0`).join('\n')}\n`,
    );
    refused(
      further('recall', 'worst'),
      'recall (sensitivity) in the worst subgroup by region is undefined for hill, whatever is predicted:',
      'further.0.on',
      material(one, 40),
    );
  });
  it('by a value that is not there', () => {
    refused(
      further('accuracy', 'value', { on: { kind: 'value', values: { column: 'region', value: 'moon' } } }),
      'No row has region “moon”; there are coast, hill, north, south.',
      'further.0.value',
    );
  });
  it('with the benefit of the doubt, or points the wrong way round', () => {
    refused(
      further('accuracy', 'gap', { scheme: higher }),
      'The points must get lower from nothing to most to all: for a gap of accuracy, lower is better.',
      'further.0.most',
    );
  });
  it('in a body with fields that nobody knows', () => {
    const body = new Body({
      metric: 'accuracy',
      scheme: higher,
      further: [{ ...further('accuracy', 'gap'), where: 'x' }],
    });
    questionKindOf('predictions').from({ id: 'q', title: '', text: '' }, body);
    expect(() => {
      body.refuseOthers();
    }).toThrow('There is nothing called further.0.where.');
  });
});
