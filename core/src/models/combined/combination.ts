import { SieveError } from '../../foundation/errors.js';
import { at, indices } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import { dealAtRandom, dealStratified } from '../../splitting/algorithms/deal.js';
import { dealGroups } from '../../splitting/algorithms/deal-groups.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import type { Predicted } from '../contract/state.js';
import { modelLine } from '../learners/typed.js';
import { samplePart, trainingPart } from '../contract/part.js';
import { combinedForm, memberSays, type CombinedState } from './combined-form.js';
import { checkMember, memberIn, Members, type Member } from './members.js';
import { combinationStarter } from './starter.js';
import { bestWeights, errorProducts } from './weights.js';

const MOST_MEMBERS = 8;

type Shape = Pick<CombinedState, 'classes' | 'positive'>;

export const shapeOf = ({ target }: Training): Shape =>
  target.kind === 'numbers'
    ? { classes: 0, positive: null }
    : { classes: target.labels.length, positive: target.positive };

/** The fold of each training row: rows of one group in one fold, where there are groups; the shares of the classes are kept. */
function foldsWithin({ target, rowCount, groups }: Training, folds: number, random: Random): Int32Array {
  const fold = new Int32Array(rowCount);
  const codes = groups();
  if (codes) {
    const place = new Map([...new Set(codes)].map((code, i) => [code, i]));
    if (place.size < folds)
      throw new SieveError(
        'model',
        `${folds} folds inside the training rows need as many groups; there are ${place.size}.`,
        { field: 'folds' },
      );
    const classes = target.kind === 'numbers' ? 1 : target.labels.length;
    const counts = Array.from(place, () => new Array<number>(classes).fill(0));
    codes.forEach((code, row) => {
      const own = at(counts, place.get(code) ?? 0);
      const class_ = target.kind === 'numbers' ? 0 : at(target.codes, row);
      own[class_] = (own[class_] ?? 0) + 1;
    });
    const foldOf = dealGroups(counts, folds, random);
    return codes.map((code) => at(foldOf, place.get(code) ?? 0));
  }
  if (target.kind === 'numbers') dealAtRandom(indices(rowCount), folds, random, fold);
  else dealStratified(indices(rowCount), target.codes, target.labels.length, folds, random, fold);
  return fold;
}

/** What each model says of each training row when it was fitted without it. */
function outOfFold(
  training: Training,
  members: readonly Member[],
  fits: Members,
  folds: number,
): Predicted[] {
  const { rowCount } = training;
  const shape = shapeOf(training);
  const rows = indices(rowCount);
  const fold = foldsWithin(training, folds, fits.randomOf('folds'));
  const said = members.map(() =>
    Array.from({ length: Math.max(1, shape.classes) }, () => new Float64Array(rowCount)),
  );
  for (let own = 0; own < folds; own++) {
    const test = rows.filter((row) => fold[row] === own);
    const sample = samplePart(training, test);
    const others = rows.filter((row) => fold[row] !== own);
    members.forEach((member, i) => {
      const part = trainingPart(training, others, fits.randomOf(`fold ${own}, model ${i}`));
      memberSays(fits.fitOnce(member, part), sample, shape).forEach((values, output) =>
        test.forEach((row, place) => (at(at(said, i), output)[row] = at(values, place))),
      );
    });
  }
  return said;
}

export const combination = modelFamily({
  key: 'combination',
  title: 'several models combined',
  about:
    'Models of several families, fitted to the same rows, give one answer: the mean of what they say, a vote (of numbers the median), or a mean whose weights are learned from what each says of training rows that it was fitted without (stacking). The weights are not negative, are 1 together and have the least squared error; of classes the error is of the probabilities. A model is written as its family and those settings that it does not begin with, such as `forest trees=200 depth=6`; at most eight. The folds inside the training rows that stacking uses keep the shares of the classes, and rows of one group together; they do not keep rows in the order of time.',
  source:
    'Breiman, Stacked regressions (1996); van der Laan, Polley and Hubbard, Super learner (2007); scikit-learn, VotingClassifier, VotingRegressor',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [],
  forms: [combinedForm],
  starter: combinationStarter,
  parameters: {
    by: {
      type: 'choice',
      label: 'how they are combined',
      choices: [
        { value: 'average', text: 'mean' },
        { value: 'vote', text: 'vote' },
        { value: 'stack', text: 'weighted mean' },
      ],
    },
    members: {
      type: 'texts',
      label: 'models that are combined',
      hasCommas: true,
      start: ['forest', 'boosting', 'nearest'],
    },
    folds: { type: 'number', label: 'folds inside the training rows', min: 2, max: 20, step: 1, start: 5 },
  },
  sentence: ({ by }) =>
    `the {by} of {members}${by === 'stack' ? ', weights learned by {folds} folds inside the training rows' : ''}`,
  checkValues: ({ members }, task, columns) => {
    const fail = (message: string) => new SieveError('plan-value', message, { field: 'members' });
    if (members.length < 2) throw fail('Name at least two models to combine.');
    if (members.length > MOST_MEMBERS) throw fail(`At most ${MOST_MEMBERS} models are combined.`);
    if (new Set(members.map((line) => line.trim())).size < members.length)
      throw fail('A model is named twice.');
    for (const line of members) checkMember(line, 'members', task, columns);
  },
  fit: (training, { by, members: lines, folds }) => {
    const members = lines.map((line) => memberIn(line, 'members'));
    const fits = new Members(training, 'members');
    const shape = shapeOf(training);
    let weights = members.map(() => 1 / members.length);
    let errors: readonly (number | null)[] = members.map(() => null);
    if (by === 'stack') {
      if (training.rowCount < folds)
        throw new SieveError('model', `${folds} folds need as many training rows.`, { field: 'folds' });
      const products = errorProducts(
        outOfFold(training, members, fits, folds),
        training.target,
        training.weights,
      );
      weights = bestWeights(products);
      // Of two classes each error would count twice.
      errors = products.map((row, i) => at(row, i) / (shape.positive === null ? 1 : 2));
    }
    members.forEach((member, i) => fits.keep(member, { ...training, random: fits.randomOf(`model ${i}`) }));
    const state: CombinedState = {
      form: 'combined',
      joined: by === 'vote' ? 'vote' : 'average',
      members: fits.states,
      weights,
      ...shape,
    };
    return {
      state,
      description: {
        members: members.map(({ kind, plan }, i) => ({
          model: modelLine(kind, plan),
          title: kind.title,
          weight: at(weights, i),
          error: at(errors, i),
        })),
      },
      warnings: fits.warnings,
    };
  },
});
