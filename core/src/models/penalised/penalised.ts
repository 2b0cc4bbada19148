import { linearForm, logitsForm, type LinearState, type LogitsState } from '../linear/forms.js';
import { penalisedStarter } from './starter.js';
import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { bareCoefficient, INTERCEPT, type PathPoint } from '../contract/description.js';
import { modelFamily, type Learned } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import type { ModelState } from '../contract/state.js';
import { penalisedClasses, penalisedNumbers, type Penalised } from './fit.js';

const source =
  'R, glmnet (Friedman, Hastie and Tibshirani, Journal of Statistical Software 33, 2010); scikit-learn, ElasticNet';

const about =
  'Coordinate descent on features that are standardised inside (deviation with n), coefficients on the original scale: 1/(2n) of the squared residuals, or minus the log-likelihood over n, plus penalty × (mixing × sum of absolute coefficients + (1 − mixing)/2 × sum of their squares).';

const penalty = { type: 'number', label: 'penalty', min: 0, start: 0.1 } as const;
const units = {
  type: 'choice',
  label: 'what the penalty is counted on',
  choices: [
    { value: 'deviations', text: 'a target of deviation 1' },
    { value: 'as-is', text: 'the target as it is' },
  ],
} as const;

const hyperparameters = [{ key: 'penalty', larger: 'simple', settings: 'path', batched: true }] as const;

interface Values {
  readonly penalty: number;
  readonly units: (typeof units)['choices'][number]['value'];
}

function problemOf(training: Training, { units }: Pick<Values, 'units'>): Penalised {
  if (training.target.kind === 'numbers') return penalisedNumbers(training, units === 'deviations');
  return penalisedClasses(training);
}

function stateAt(point: PathPoint, { target }: Training): LinearState | LogitsState {
  const { intercept, coefficients } = point;
  if (target.kind === 'numbers') return { form: 'linear', intercept, slopes: coefficients };
  const own = (label: number) => label === target.positive;
  return {
    form: 'logits',
    intercepts: target.labels.map((_, label) => (own(label) ? intercept : 0)),
    slopes: target.labels.map((_, label) => coefficients.map((value) => (own(label) ? value : 0))),
  };
}

/** The model at a penalty, and the path that it lies on. */
function fitAt(training: Training, values: Values, mixing: number): Learned {
  if (training.target.kind === 'classes' && training.target.positive === null)
    throw new SieveError('model', 'Penalised regression takes numbers or two classes.');
  const problem = problemOf(training, values);
  const path = problem.path(mixing);
  // The path and the penalty itself in one descent, so that each fit starts near its end.
  const penalties = [...new Set([...path, values.penalty])].sort((a, b) => b - a);
  const points = problem.fits(penalties, mixing);
  const point = points[penalties.indexOf(values.penalty)];
  if (!point) throw new RangeError('a path has a point');
  const { terms } = training.design();
  return {
    state: stateAt(point, training),
    description: {
      coefficients: [
        bareCoefficient(INTERCEPT, point.intercept),
        ...terms.map(({ name }, c) => bareCoefficient(name, at(point.coefficients, c))),
      ],
      figures: { nonzero: point.nonzero, deviance_ratio: point.devianceRatio },
      path: {
        terms: terms.map(({ name }) => name),
        points: points.filter(({ penalty }) => path.includes(penalty)),
      },
    },
    warnings: [],
  };
}

const pathOf = (training: Training, values: Pick<Values, 'units'>, mixing: number) =>
  problemOf(training, values).path(mixing);

function alongPath(
  training: Training,
  values: Values,
  mixing: number,
  key: string,
  settings: readonly number[],
): ModelState[] | null {
  if (key !== 'penalty') return null;
  const descending = [...settings].sort((a, b) => b - a);
  const points = problemOf(training, values).fits(descending, mixing);
  return settings.map((setting) => stateAt(at(points, descending.indexOf(setting)), training));
}

export const ridge = modelFamily({
  key: 'ridge',
  title: 'ridge regression',
  about: `Squares of coefficients are penalised: all shrink, none becomes 0. ${about}`,
  source,
  tasks: ['regression', 'binary'],
  hyperparameters,
  forms: [linearForm, logitsForm],
  starter: penalisedStarter(0),
  parameters: { penalty, units },
  sentence: () => 'penalty {penalty} on {units}',
  fit: (training, values) => fitAt(training, values, 0),
  path: (training, values) => pathOf(training, values, 0),
  fitPath: (training, values, key, settings) => alongPath(training, values, 0, key, settings),
});

export const lasso = modelFamily({
  key: 'lasso',
  title: 'lasso',
  about: `Absolute values of coefficients are penalised: one after another becomes exactly 0. ${about}`,
  source,
  tasks: ['regression', 'binary'],
  hyperparameters,
  forms: [linearForm, logitsForm],
  starter: penalisedStarter(1),
  parameters: { penalty },
  sentence: () => 'penalty {penalty}',
  fit: (training, values) => fitAt(training, { ...values, units: 'deviations' }, 1),
  path: (training) => pathOf(training, { units: 'deviations' }, 1),
  fitPath: (training, values, key, settings) =>
    alongPath(training, { ...values, units: 'deviations' }, 1, key, settings),
});

export const elasticNet = modelFamily({
  key: 'elastic-net',
  title: 'elastic net',
  about: `A mixture of both penalties. ${about}`,
  source,
  tasks: ['regression', 'binary'],
  hyperparameters: [
    ...hyperparameters,
    { key: 'mixing', larger: 'simple', settings: [0, 0.1, 0.25, 0.5, 0.75, 0.9, 1] },
  ],
  forms: [linearForm, logitsForm],
  starter: penalisedStarter(null),
  parameters: {
    penalty,
    mixing: { type: 'number', label: 'mixing, from 0 for ridge to 1 for lasso', min: 0, max: 1, start: 0.5 },
    units,
  },
  sentence: () => 'penalty {penalty} on {units}, mixing {mixing}',
  fit: (training, values) => fitAt(training, values, values.mixing),
  path: (training, values) => pathOf(training, values, values.mixing),
  fitPath: (training, values, key, settings) => alongPath(training, values, values.mixing, key, settings),
});
