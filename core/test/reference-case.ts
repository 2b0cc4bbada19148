import { judgeAgainst, type AnswerKey } from '../src/assessment/files/judge.js';
import { checkPredictions } from '../src/assessment/files/predictions.js';
import { readCsv } from '../src/data/formats/csv/read.js';
import type { Judged } from '../src/metrics/judged.js';
import type { LabelData } from '../src/metrics/metric.js';
import { labelsOf } from '../src/data/table/labels.js';
import type { Task } from '../src/data/table/roles.js';
import { cellText, columnNamed } from '../src/data/table/table.js';
import { testFile } from './files.js';

interface Expected {
  source: string;
  task: Task;
  tolerance: number;
  expected: Record<string, number | number[][]>;
}

/** A case of test/reference, read by the same code that reads submissions. */
export function referenceCase(name: string): { judged: Judged; expected: Expected } {
  const expected = JSON.parse(
    new TextDecoder().decode(testFile(`reference/${name}/expected.json`)),
  ) as Expected;
  const { table } = readCsv(testFile(`reference/${name}/truth.csv`), { file: 'truth.csv' });
  const target = columnNamed(table, 'target');
  const ids = columnNamed(table, 'id');
  const labelled = expected.task === 'regression' ? null : labelsOf(target);
  const labels = labelled?.labels ?? [];
  const positive = expected.task === 'binary' ? (labels.at(-1) ?? null) : null;
  const identifiers = Array.from({ length: table.rowCount }, (_, row) => cellText(ids, row) ?? '');
  const needs = expected.task === 'regression' ? 'numbers' : 'labels';
  const rules = { identifier: 'id', identifiers, task: expected.task, labels, positive, needs } as const;
  const { predictions, checks } = checkPredictions(testFile(`reference/${name}/pred.csv`), 'pred.csv', rules);
  if (!predictions) throw new Error(JSON.stringify(checks));
  const key: AnswerKey = {
    task: expected.task,
    labels,
    positive,
    classes: labelled?.codes ?? null,
    values: target.kind === 'number' ? target.values : null,
    groups: null,
    feedback: new Uint8Array(table.rowCount),
  };
  const rows = Int32Array.from(identifiers.keys());
  const judged = judgeAgainst(key, predictions, rows);
  const weights = table.columns.find((column) => column.name === 'w');
  if (judged.kind !== 'labels' || weights?.kind !== 'number') return { judged, expected };
  return { judged: { kind: 'labels', data: { ...judged.data, weights: weights.values } }, expected };
}

/** The data of a case of classes. */
export function labelCase(name: string): LabelData {
  const { judged } = referenceCase(name);
  if (judged.kind !== 'labels') throw new Error(`${name} is no case of classes`);
  return judged.data;
}
