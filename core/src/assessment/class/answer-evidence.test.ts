import { describe, expect, it } from '@jest/globals';
import { readCsv } from '../../data/formats/csv/read.js';
import type { AnswerKey } from '../files/judge.js';
import type { PredictionRules } from '../files/rules.js';
import { answerEvidence } from './answer-evidence.js';

const N = 40;
const ids = Array.from({ length: N }, (_, row) => `r${row}`);
/** Rows from 0 to 19 are of hill, the others of vale. */
const features = readCsv(
  new TextEncoder().encode(
    ['id,place', ...ids.map((id, row) => `${id},${row < 20 ? 'hill' : 'vale'}`)].join('\n'),
  ),
  { file: 'held-out.csv' },
).table;
const rules = { identifier: 'id', identifiers: ids } as unknown as PredictionRules;
/** Every second row is of the positive class; the first ten give feedback. */
const truth = Int32Array.from(ids, (_, row) => row % 2);
const feedback = Uint8Array.from(ids, (_, row) => (row < 10 ? 1 : 0));
const key = { task: 'binary', labels: ['no', 'yes'], positive: 'yes', groups: null, feedback } as const;

describe('where an answer goes wrong', () => {
  /** Wrong in ten of the hill rows, of which five are final. */
  const predicted = Int32Array.from(truth, (code, row) => (row % 2 === 0 && row < 20 ? 1 - code : code));

  it('has the ROC curve and the calibration of probabilities on the final rows', () => {
    const chances = Float64Array.from(predicted, (code) => (code === 1 ? 0.9 : 0.2));
    const { classes, residuals, subgroups } = answerEvidence(
      { ...key, classes: truth, values: null } satisfies AnswerKey,
      rules,
      { kind: 'labels', predicted, probabilities: [chances.map((p) => 1 - p), chances], derived: true },
      features,
    );
    expect(residuals).toBeNull();
    // Of 15 final rows of each class, 15 are found and 5 are false alarms: by hand.
    expect(classes?.confusion).toEqual([
      [10, 5],
      [0, 15],
    ]);
    expect(classes?.roc).toEqual([
      { x: 0, y: 0 },
      { x: 5 / 15, y: 1 },
      { x: 1, y: 1 },
    ]);
    const [low] = classes?.calibration.filter(({ mean }) => mean !== null) ?? [];
    expect(low).toMatchObject({ positive: 0 });
    expect(low?.mean).toBeCloseTo(0.2, 12);
    const hill = subgroups.find(({ value }) => value === 'hill');
    expect(hill).toMatchObject({ column: 'place', rows: 20, missed: 0.5, elsewhere: 0 });
  });

  it('has no curves of labels without probabilities', () => {
    const { classes } = answerEvidence(
      { ...key, classes: truth, values: null },
      rules,
      { kind: 'labels', predicted, probabilities: null, derived: false },
      features,
    );
    expect(classes).toMatchObject({ positive: null, roc: [], calibration: [], calibrated: null });
    expect(classes?.confusion).toEqual([
      [10, 5],
      [0, 15],
    ]);
  });

  it('says of numbers what their residuals say, but nothing of neighbouring rows', () => {
    const values = Float64Array.from(ids, (_, row) => row);
    const { classes, residuals } = answerEvidence(
      { ...key, task: 'regression', labels: [], positive: null, classes: null, values },
      rules,
      { kind: 'numbers', predicted: values.map((value, row) => value - 50 + ((row * 7) % 5)) },
      features,
    );
    expect(classes).toBeNull();
    // All predictions are too low by about 48.
    expect(residuals?.find(({ id }) => id === 'mean')?.outcome).not.toBe('holds');
    expect(residuals?.map(({ id }) => id)).not.toContain('neighbours');
  });
});
