import { describe, expect, it } from '@jest/globals';
import { breastCancer, diabetes } from '../../../../test/files.js';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../../foundation/random/random.js';
import { fitModel, predictRows, type FitRequest } from '../../../models/fitted.js';
import { targetOf } from '../../../models/prepared/target.js';
import { modelOf } from '../../../models/registry.js';
import type { Task } from '../../../data/table/roles.js';
import type { Table } from '../../../data/table/table.js';
import { slipsIn } from '../contract/kind.js';
import { reordered, type PredictedFile } from './paired.js';
import { PREDICTION_SLIPS } from './prediction-slips.js';

const found = (file: PredictedFile) => slipsIn(PREDICTION_SLIPS, file).map(({ id }) => id);

/** What a model that was fitted to half of the rows of an open data set says of the others, in an order that says nothing. */
function honest(table: Table, targetName: string, task: Task, kind: string, positive: string | null) {
  const order = shuffle(indices(table.rowCount), seededRandom(3));
  const [rows, test] = [order.slice(0, order.length >> 1), order.slice(order.length >> 1)];
  const target = targetOf(table, { target: targetName, task, positive });
  const features = table.columns.filter(({ name, kind: of }) => name !== targetName && of === 'number');
  const request: FitRequest = {
    table,
    rows,
    model: modelOf(kind),
    features: features.map(({ name }) => name),
    targetName,
    target,
    task,
    weights: null,
    seed: 1,
    group: null,
  };
  const said = predictRows(fitModel(request), table, test);
  const truth = target.kind === 'classes' ? target.codes : target.values;
  const identifiers = Array.from(test, (row) => String(500 + row));
  const key = {
    task,
    positive,
    groups: null,
    feedback: new Uint8Array(test.length),
    labels: target.kind === 'classes' ? target.labels : [],
    classes: target.kind === 'classes' ? Int32Array.from(test, (row) => at(truth, row)) : null,
    values: target.kind === 'classes' ? null : Float64Array.from(test, (row) => at(truth, row)),
  };
  return { said, identifiers, key };
}

const TUMOURS = (() => {
  const { said, ...rest } = honest(breastCancer(), 'target', 'binary', 'tree', 'malignant');
  const predicted = Int32Array.from(at(said, 1), (p) => Number(p >= 0.5));
  return {
    ...rest,
    predictions: { kind: 'labels', predicted, probabilities: null, derived: false },
  } as const;
})();
const CHANCES = (() => {
  const { said, ...rest } = honest(breastCancer(), 'target', 'binary', 'logistic', 'malignant');
  const predicted = Int32Array.from(at(said, 1), (p) => Number(p >= 0.5));
  return { ...rest, predictions: { kind: 'labels', predicted, probabilities: said, derived: true } } as const;
})();
const PROGRESS = (() => {
  const { said, ...rest } = honest(diabetes(), 'target', 'regression', 'linear', null);
  return { ...rest, predictions: { kind: 'numbers', predicted: at(said, 0) } } as const;
})();

const turned = (predicted: Int32Array) => predicted.map((code) => 1 - code);
const places = indices(PROGRESS.identifiers.length);
const sorted = places
  .slice()
  .sort((a, b) => Number(at(PROGRESS.identifiers, a)) - Number(at(PROGRESS.identifiers, b)));
const ranks = places.map((place) => sorted.indexOf(place));
const numbers = (turn: (value: number) => number) => ({
  ...PROGRESS,
  predictions: { kind: 'numbers', predicted: PROGRESS.predictions.predicted.map(turn) } as const,
});
const inOrder = (order: Int32Array) => ({ ...PROGRESS, predictions: reordered(PROGRESS.predictions, order) });

/** A threshold that names more rows than a half does. */
const LOW = Math.max(...at(CHANCES.predictions.probabilities, 1).filter((p) => p < 0.5));

const MADE: readonly (readonly [slip: string, file: PredictedFile])[] = [
  [
    'labels-exchanged',
    { ...TUMOURS, predictions: { ...TUMOURS.predictions, predicted: turned(TUMOURS.predictions.predicted) } },
  ],
  [
    'probability-of-other-class',
    {
      ...CHANCES,
      predictions: {
        ...CHANCES.predictions,
        predicted: turned(CHANCES.predictions.predicted),
        probabilities: CHANCES.predictions.probabilities.toReversed(),
      },
    },
  ],
  [
    'other-threshold',
    {
      ...CHANCES,
      predictions: {
        ...CHANCES.predictions,
        derived: false,
        predicted: Int32Array.from(at(CHANCES.predictions.probabilities, 1), (p) => Number(p >= LOW)),
      },
    },
  ],
  ['rows-shifted', inOrder(places.map((place) => (place + 1) % places.length))],
  ['rows-sorted', inOrder(sorted)],
  ['file-order-assumed', inOrder(ranks)],
  ['logarithm-of-target', numbers(Math.log)],
  ['factor-of-unit', numbers((value) => value / 1000)],
  ['standardised-target', numbers((value) => (value - 152) / 77)],
  ['constant', numbers(() => 152)],
];

describe('slips in files of predictions', () => {
  it.each(MADE)('%s is named where it was made, and nothing else', (slip, file) => {
    expect(found(file)).toEqual([slip]);
  });

  it('cover every slip of such files', () => {
    expect(MADE.map(([slip]) => slip).sort()).toEqual(PREDICTION_SLIPS.map(({ id }) => id).sort());
  });

  it('are not named in honest files', () => {
    for (const file of [TUMOURS, CHANCES, PROGRESS]) expect(found(file)).toEqual([]);
  });

  it('are not named in files that are bad for another reason', () => {
    for (let seed = 0; seed < 60; seed++) {
      const order = shuffle(indices(TUMOURS.identifiers.length), seededRandom(seed));
      expect(found({ ...TUMOURS, predictions: reordered(TUMOURS.predictions, order) })).toEqual([]);
      const other = shuffle(places.slice(), seededRandom(seed));
      expect(found({ ...PROGRESS, predictions: reordered(PROGRESS.predictions, other) })).toEqual([]);
    }
  });

  it('are not named where a rare class is said too often, which under other names would be right more often', () => {
    // What a model with balanced class weights says: of common “a” most are called the rare “b”, more of the true “b” even so.
    const cells = [
      ['a', 'a', 60],
      ['a', 'b', 180],
      ['b', 'a', 2],
      ['b', 'b', 18],
      ['c', 'c', 140],
    ] as const;
    const labels = ['a', 'b', 'c'];
    const rows = cells.flatMap(([truth, said, n]) => Array.from({ length: n }, () => [truth, said] as const));
    const codes = (of: 0 | 1) => Int32Array.from(rows, (row) => labels.indexOf(row[of]));
    const file: PredictedFile = {
      identifiers: rows.map((_, row) => String(row)),
      key: {
        ...TUMOURS.key,
        task: 'multiclass',
        positive: null,
        labels,
        classes: codes(0),
        feedback: new Uint8Array(rows.length),
      },
      predictions: { kind: 'labels', predicted: codes(1), probabilities: null, derived: false },
    };
    expect(found(file)).toEqual([]);
    const exchanged = codes(1).map((code) => (code === 2 ? 0 : code + 1));
    expect(found({ ...file, predictions: { ...file.predictions, predicted: exchanged } as never })).toEqual([
      'labels-exchanged',
    ]);
  });

  it('are looked for in files of many rows too', () => {
    const n = 300_000;
    const chances = Float64Array.from({ length: n }, (_, row) => ((row * 7919) % n) / n);
    const file: PredictedFile = {
      identifiers: Array.from(chances, (_, row) => String(row)),
      key: {
        ...TUMOURS.key,
        classes: Int32Array.from(chances, (p) => Number(p > 0.5)),
        feedback: new Uint8Array(n),
      },
      predictions: {
        kind: 'labels',
        predicted: Int32Array.from(chances, (p) => Number(p >= 0.3)),
        probabilities: [chances.map((p) => 1 - p), chances],
        derived: false,
      },
    };
    expect(found(file)).toEqual(['other-threshold']);
  });

  it('take no other factor for a unit', () => {
    expect(found(numbers((value) => value / 1.6))).toEqual([]);
    expect(found(numbers((value) => value * 30))).toEqual([]);
  });
});
