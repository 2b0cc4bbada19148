import { bayesForm } from './predict.js';
import { naiveBayesStarter } from './starter.js';
import { SieveError } from '../../foundation/errors.js';
import { at, indices } from '../../foundation/numbers.js';
import { absent } from '../contract/absent.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import type { Feature } from '../prepared/recipe.js';
import { classWeights } from '../prepared/target.js';
import type { BayesPart } from './state.js';
import { type Classes, kernels } from './kernels.js';

/** Added to variances, times the largest variance of a feature, so that none is 0 (scikit-learn, var_smoothing). */
const SMOOTHING = 1e-9;

export const naiveBayes = modelFamily({
  key: 'naive-bayes',
  title: 'naive Bayes',
  about:
    'Features are taken as independent within each class. Gaussian: a normal density for each column (variance with n; categories as 0 and 1). Bernoulli: whether a column is above 0. Multinomial: columns are counts. Kernel: a sum of normal kernels for each number, with R’s bandwidth (bw.nrd0) times a factor. Mixed: normal for numbers, shares of levels for categories, counts for words. Laplace’s correction is added to every count; all is summed in logarithms.',
  source: 'scikit-learn, GaussianNB, BernoulliNB, MultinomialNB, CategoricalNB and KernelDensity',
  tasks: ['binary', 'multiclass'],
  hyperparameters: [
    { key: 'bandwidth', larger: 'simple', settings: [0.1, 0.2, 0.35, 0.5, 0.75, 1, 1.5, 2, 3, 5] },
  ],
  forms: [bayesForm],
  starter: naiveBayesStarter,
  parameters: {
    kind: {
      type: 'choice',
      label: 'kind of density',
      choices: [
        { value: 'mixed', text: 'mixed by type of column' },
        { value: 'gaussian', text: 'Gaussian' },
        { value: 'kernel', text: 'kernel' },
        { value: 'bernoulli', text: 'Bernoulli' },
        { value: 'multinomial', text: 'multinomial' },
      ],
    },
    laplace: { type: 'number', label: 'Laplace’s correction', min: 0, start: 1 },
    bandwidth: { type: 'number', label: 'bandwidth, times the usual', min: 0.001, start: 1 },
  },
  sentence: ({ kind }) =>
    kind === 'gaussian'
      ? '{kind}'
      : kind === 'kernel'
        ? '{kind}, bandwidth {bandwidth}, Laplace {laplace}'
        : '{kind}, Laplace {laplace}',
  fit: (training, { kind, laplace, bandwidth }) => {
    const { target, weights } = training;
    if (target.kind === 'numbers') throw new SieveError('model', 'Naive Bayes predicts classes.');
    const sums = classWeights(target, weights);
    const total = sums.reduce((a, b) => a + b, 0);
    const classes: Classes = { target, weights, sums, laplace };
    const designed = { gaussian, bernoulli, multinomial };
    const isByFeature = kind === 'mixed' || kind === 'kernel';
    const parts = isByFeature
      ? byFeature(training, classes, kind === 'kernel' ? bandwidth : null)
      : designed[kind](training, classes);
    return {
      state: {
        form: 'bayes',
        logPriors: Array.from(sums, (sum) => (sum > 0 ? Math.log(sum / total) : null)),
        parts,
      },
      description: {},
      warnings: [...absent(training), ...(isByFeature ? leftOut(training, classes) : [])],
    };
  },
});

/** For each class the weighted sum of a column's values. */
function classSums({ target, weights, sums }: Classes, values: ArrayLike<number>): number[] {
  const out = new Array<number>(sums.length).fill(0);
  for (let row = 0; row < values.length; row++) {
    const code = target.codes[row] ?? 0;
    out[code] = (out[code] ?? 0) + (weights ? (weights[row] ?? 0) : 1) * (values[row] ?? 0);
  }
  return out;
}

function normal(
  classes: Classes,
  values: Float64Array,
  of: 'term' | 'feature',
  place: number,
  least: number,
) {
  const present = values.map((value) => (Number.isNaN(value) ? 0 : 1));
  const counts = classSums(classes, present);
  const known = values.map((value) => (Number.isNaN(value) ? 0 : value));
  const means = classSums(classes, known).map((sum, label) => sum / (at(counts, label) || 1));
  const squares = values.map((value, row) =>
    Number.isNaN(value) ? 0 : (value - at(means, classes.target.codes[row] ?? 0)) ** 2,
  );
  // A class without rows has no density, and is never predicted.
  const variances = classSums(classes, squares).map((sum, label) =>
    at(counts, label) > 0 ? sum / at(counts, label) + least : 1,
  );
  return { kind: 'normal' as const, of, place, means, variances };
}

/** scikit-learn, GaussianNB. */
function gaussian(training: Training, classes: Classes): BayesPart[] {
  const { columns } = training.design();
  const least = SMOOTHING * leastSpread(columns, classes.weights);
  return columns.map((values, place) => normal(classes, values, 'term', place, least));
}

/**
 * The largest variance of a column; 1 where none varies. A weight counts as rows, as everywhere: scikit-learn takes
 * the variance without the weights here.
 */
function leastSpread(columns: readonly Float64Array[], weights: Classes['weights']): number {
  const weigh = (row: number) => weights?.[row] ?? 1;
  let most = 0;
  for (const values of columns) {
    const present = indices(values.length).filter((row) => !Number.isNaN(values[row]));
    const total = present.reduce((sum, row) => sum + weigh(row), 0);
    const mean = present.reduce((sum, row) => sum + weigh(row) * at(values, row), 0) / total;
    const spread = present.reduce((sum, row) => sum + weigh(row) * (at(values, row) - mean) ** 2, 0) / total;
    most = Math.max(most, spread || 0);
  }
  return most > 0 ? most : 1;
}

/** scikit-learn, BernoulliNB with binarize=0. */
function bernoulli(training: Training, classes: Classes): BayesPart[] {
  return training.design().columns.map((values, place) => {
    const yes = classSums(
      classes,
      values.map((value) => (value > 0 ? 1 : 0)),
    );
    const chances = yes.map(
      (sum, label) => (sum + classes.laplace) / (at(classes.sums, label) + 2 * classes.laplace),
    );
    return {
      kind: 'bernoulli',
      place,
      logYes: chances.map(logOf),
      logNo: chances.map((chance) => logOf(1 - chance)),
    };
  });
}

/** scikit-learn, MultinomialNB. @throws SieveError `model` for a column with negative values */
function multinomial(training: Training, classes: Classes): BayesPart[] {
  const { columns, terms } = training.design();
  columns.forEach((values, c) => {
    if (values.some((value) => value < 0))
      throw new SieveError(
        'model',
        `${at(terms, c).name} has values below 0, and multinomial naive Bayes takes counts. Choose another kind, or other features.`,
        { field: 'kind' },
      );
  });
  const logs = countLogs(classes, columns);
  return columns.map((_, place) => ({
    kind: 'counts',
    place,
    logs: logs.map((own) => at(own, place)),
  }));
}

/** For each class the logarithm of each column's share of all counts. */
function countLogs(classes: Classes, columns: readonly Float64Array[]): number[][] {
  const sums = columns.map((values) => classSums(classes, values));
  return Array.from(classes.sums, (_, label) => {
    const own = sums.map((sum) => at(sum, label) + classes.laplace);
    const total = own.reduce((a, b) => a + b, 0);
    return own.map((sum) => logOf(total > 0 ? sum / total : 1));
  });
}

/** @param bandwidth times the usual, for kernels; null for normal densities */
function byFeature(training: Training, classes: Classes, bandwidth: number | null): BayesPart[] {
  const numbers = training.features.flatMap((feature) => (feature.kind === 'number' ? [feature.values] : []));
  const least = SMOOTHING * leastSpread(numbers, classes.weights);
  return training.features.flatMap((feature, place): BayesPart[] => {
    switch (feature.kind) {
      case 'number':
        if (classWithout(feature.values, classes) >= 0) return [];
        return bandwidth === null
          ? [normal(classes, feature.values, 'feature', place, least)]
          : [{ kind: 'kernel', place, classes: kernels(classes, feature.values, bandwidth) }];
      case 'category':
        return [{ kind: 'levels', place, logs: levelLogs(classes, feature) }];
      case 'words':
        return [{ kind: 'words', place, logs: countLogs(classes, feature.counts) }];
    }
  });
}

/** A class that has rows and no value of a feature: it has no density to compare others with. −1 where there is none. */
function classWithout(values: Float64Array, classes: Classes): number {
  const present = classSums(
    classes,
    values.map((value) => (Number.isNaN(value) ? 0 : 1)),
  );
  return classes.sums.findIndex((sum, label) => sum > 0 && present[label] === 0);
}

/** Which features were left out for that, as sentences. */
const leftOut = (training: Training, classes: Classes): string[] =>
  training.features.flatMap((feature) => {
    const label = feature.kind === 'number' ? classWithout(feature.values, classes) : -1;
    return label < 0
      ? []
      : [
          `${feature.name} has no value in class ${at(classes.target.labels, label)}: it has no density there, and is left out.`,
        ];
  });

/** scikit-learn, CategoricalNB; a missing cell is counted nowhere. */
function levelLogs(classes: Classes, { codes, levels }: Extract<Feature, { kind: 'category' }>): number[][] {
  const counts = levels.map((_, level) =>
    classSums(
      classes,
      codes.map((code) => (code === level ? 1 : 0)),
    ),
  );
  return Array.from(classes.sums, (_, label) => {
    const own = counts.map((sums) => at(sums, label) + classes.laplace);
    const total = own.reduce((a, b) => a + b, 0);
    return own.map((sum) => logOf(total > 0 ? sum / total : 1));
  });
}

/** Of 0, which only a correction of 0 leaves, the logarithm of the smallest number. */
const logOf = (chance: number): number => Math.log(Math.max(chance, Number.MIN_VALUE));
