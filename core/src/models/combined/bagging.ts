import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import { likeliest } from '../contract/chances.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import type { ModelState, Predicted } from '../contract/state.js';
import { samplePart, trainingPart } from '../contract/part.js';
import { shapeOf } from './combination.js';
import { combinedForm, memberSays, type CombinedState } from './combined-form.js';
import { checkMember, memberIn, Members } from './members.js';
import { baggingStarter } from './starter.js';

/** Draws of rows that are tried until every class is among them. */
const MOST_DRAWS = 100;

interface Values {
  readonly model: string;
  readonly models: number;
  readonly share: number;
}

/** Rows drawn with replacement, ascending; drawn again where a class that has rows is not among them. */
function drawRows({ target, rowCount }: Training, share: number, random: Random): Int32Array {
  const count = Math.max(1, Math.round((rowCount * share) / 100));
  const classesIn = (rows: Iterable<number>) =>
    target.kind === 'numbers' ? 0 : new Set(Array.from(rows, (row) => at(target.codes, row))).size;
  const all = classesIn(Array(rowCount).keys());
  for (let draw = 0; draw < MOST_DRAWS; draw++) {
    const rows = Int32Array.from({ length: count }, () => random.below(rowCount)).sort();
    if (classesIn(rows) === all) return rows;
  }
  throw new SieveError(
    'model',
    `In ${MOST_DRAWS} draws of ${count} rows a class was always missing: it has too few rows, or the share is too small.`,
    { field: 'share' },
  );
}

/** The error of the models so far on rows that they have not seen: the share of wrong classes, or the mean squared error. */
class OutOfBag {
  private readonly sums: Float64Array[];
  private readonly seenBy: Int32Array;

  constructor(private readonly training: Training) {
    const { rowCount } = training;
    this.sums = Array.from(
      { length: Math.max(1, shapeOf(training).classes) },
      () => new Float64Array(rowCount),
    );
    this.seenBy = new Int32Array(rowCount);
  }

  /** @returns null while no row was left out */
  add(state: ModelState, drawn: Int32Array): number | null {
    const { training, sums, seenBy } = this;
    const isIn = new Uint8Array(training.rowCount);
    for (const row of drawn) isIn[row] = 1;
    const left = Int32Array.from(isIn.keys()).filter((row) => isIn[row] === 0);
    memberSays(state, samplePart(training, left), shapeOf(training)).forEach((values, output) =>
      left.forEach((row, place) => {
        const sum = at(sums, output);
        sum[row] = at(sum, row) + at(values, place);
      }),
    );
    for (const row of left) seenBy[row] = at(seenBy, row) + 1;
    return this.error();
  }

  private error(): number | null {
    const { training, sums, seenBy } = this;
    const { target, weights, rowCount } = training;
    const said: Predicted = sums.map((sum) => sum.map((value, row) => value / at(seenBy, row)));
    const labels = target.kind === 'classes' ? likeliest(said, target.positive) : null;
    let [lost, total] = [0, 0];
    for (let row = 0; row < rowCount; row++) {
      if (seenBy[row] === 0) continue;
      const weight = weights ? at(weights, row) : 1;
      total += weight;
      if (target.kind === 'numbers') lost += weight * (at(at(said, 0), row) - at(target.values, row)) ** 2;
      else if (labels?.[row] !== target.codes[row]) lost += weight;
    }
    return total > 0 ? lost / total : null;
  }
}

function bag(training: Training, { model, models, share }: Values) {
  const member = memberIn(model, 'model');
  const fits = new Members(training, 'models');
  const outOfBag = new OutOfBag(training);
  const errors = Array.from({ length: models }, (_, i) => {
    const random = fits.randomOf(`model ${i}`);
    const rows = drawRows(training, share, random);
    return outOfBag.add(fits.keep(member, trainingPart(training, rows, random)), rows);
  });
  return { fits, errors };
}

const stateOf = (training: Training, members: readonly ModelState[]): CombinedState => ({
  form: 'combined',
  joined: 'average',
  members,
  weights: members.map(() => 1 / members.length),
  ...shapeOf(training),
});

export const bagging = modelFamily({
  key: 'bagging',
  title: 'bagging of one model',
  about:
    'The mean of many models of one family, each fitted to training rows that are drawn with replacement. What varies much from one set of rows to another, such as a deep tree, gains most; what varies little, such as a regression, hardly. The rows that a model has not seen show the error: the out-of-bag error. The model is written as its family and those settings that it does not begin with, such as `tree depth=8`. Rows are drawn again where a class is not among them.',
  source: 'Breiman, Bagging predictors (1996); scikit-learn, BaggingClassifier, BaggingRegressor',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [{ key: 'models', larger: 'complex', settings: [1, 2, 5, 10, 25, 50], batched: true }],
  forms: [combinedForm],
  starter: baggingStarter,
  parameters: {
    model: { type: 'text', label: 'model', start: 'tree' },
    models: { type: 'number', label: 'number of models', min: 1, max: 500, step: 1, start: 25 },
    share: { type: 'number', label: 'rows drawn', min: 1, max: 100, unit: '%', start: 100 },
  },
  sentence: () => '{models} times {model}, each on {share} of the training rows, drawn with replacement',
  checkValues: ({ model }, task, columns) => {
    checkMember(model, 'model', task, columns);
  },
  fit: (training, values) => {
    const { fits, errors } = bag(training, values);
    return {
      state: stateOf(training, fits.states),
      description: {
        growth: {
          of: 'models',
          measure: training.target.kind === 'numbers' ? 'mean squared error' : 'error rate',
          training: null,
          heldOut: { rows: 'out of bag', values: errors },
        },
      },
      warnings: fits.warnings,
    };
  },
  fitPath: (training, values, key, settings) => {
    if (key !== 'models') return null;
    const { states } = bag(training, { ...values, models: Math.max(...settings) }).fits;
    return settings.map((count) => stateOf(training, states.slice(0, count)));
  },
});
