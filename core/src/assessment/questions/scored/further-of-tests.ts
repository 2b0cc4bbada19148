import { fileOf } from '../../../../test/asked.js';
import { bytesOf, testFile } from '../../../../test/files.js';
import { draw } from '../../../../test/plans.js';
import { PUBLIC_SECRET } from '../../../foundation/random/secret.js';
import { readCsv } from '../../../data/formats/csv/read.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import type { Roles } from '../../../data/table/roles.js';
import type { Table } from '../../../data/table/table.js';
import { FINAL } from '../../material/held-out.js';
import type { Material } from '../../material/material.js';
import type { PredictionsQuestion } from '../predictions/question.js';
import type { FurtherFigure } from './further.js';

interface Expected {
  readonly given: number;
  readonly cases: readonly ({
    readonly metric: string;
    readonly groups: Readonly<Record<string, number>>;
  } & Readonly<Record<'all' | 'value' | 'where' | 'worst' | 'gap', number>>)[];
}
export const reference = JSON.parse(
  new TextDecoder().decode(testFile('reference/subgroups.json')),
) as Expected;
const text = new TextDecoder().decode(testFile('reference/subgroups.csv'));
export const table = readCsv(bytesOf(text), { file: 'subgroups.csv' }).table;
const roles: Roles = {
  ...{ target: 'survived', task: 'binary', positive: 'yes', identifier: 'colony' },
  ...{ group: null, time: null, weight: null, withheld: ['p'] },
};
export const material = (of: Table = table, given = reference.given): Material => {
  const rows = Array.from({ length: of.rowCount }, (_, row) => row);
  return {
    ...{ table: of, roles, plan: draw(), folds: null, secret: PUBLIC_SECRET, curves: {}, references: [] },
    parts: Int8Array.from(rows, (row) => (row < given ? 0 : 2)),
    division: Uint8Array.from(rows, (row) => (row < given ? 0 : FINAL)),
  };
};
/** The file that the reference was computed of: the probabilities of the held-out rows. */
export const predictions = (p: (cell: number, row: number) => number = (cell) => cell) =>
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
export const higher = { nothing: 0.5, most: 0.9, all: 1, mostMarks: 2, marks: 3 };
export const further = (metric: string, on: string, over: Partial<FurtherFigure> = {}): FurtherFigure => ({
  metric,
  on: ON[on] ?? { kind: on, values: {} },
  scheme: on === 'gap' || metric === 'log_loss' ? { ...lower, nothing: on === 'gap' ? 0.5 : 1.5 } : higher,
  ...over,
});
export const question = (...figures: FurtherFigure[]): PredictionsQuestion => ({
  ...{ id: 'q1', kind: 'predictions', title: 'Predict', text: '', metric: 'accuracy' },
  scheme: { nothing: 0.5, most: 0.9, all: 1, mostMarks: 8, marks: 10 },
  ...(figures.length === 0 ? {} : { further: figures }),
});
