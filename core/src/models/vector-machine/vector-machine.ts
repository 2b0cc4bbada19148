import { at, indices } from '../../foundation/numbers.js';
import { absent } from '../contract/absent.js';
import { modelFamily } from '../contract/family.js';
import type { Training } from '../contract/sample.js';
import { standardise, type Standardised } from '../linear/standardised.js';
import type { Target } from '../prepared/target.js';
import type { Columns, Kernel } from './kernel.js';
import { KernelCache } from './kernel-cache.js';
import { machineForm, type Decision, type MachineState } from './machine-form.js';
import { solveDual, type Dual } from './solver.js';
import { machineStarter } from './starter.js';

interface Values {
  readonly kernel: 'radial' | 'linear' | 'polynomial';
  readonly cost: number;
  readonly width: number;
  readonly degree: number;
  readonly constant: number;
  readonly tube: number;
}

/** A width that is not given: one over the number of columns, scikit-learn's "auto". */
const factorOf = ({ width }: Values, columns: number): number =>
  width > 0 ? 1 / (2 * width ** 2) : 1 / Math.max(1, columns);

function kernelOf(values: Values, columns: number): Kernel {
  const factor = factorOf(values, columns);
  if (values.kernel === 'linear') return { kind: 'linear' };
  return values.kernel === 'radial'
    ? { kind: 'radial', factor }
    : { kind: 'polynomial', factor, degree: values.degree, constant: values.constant };
}

/** Steps after which a problem is given up as it is. */
const mostSteps = (variables: number): number => Math.max(200_000, 100 * variables);

/** A decision whose vectors are still rows of the training data. */
interface Fitted extends Decision {
  readonly isDone: boolean;
}

function decisionOf(dual: Dual, kernel: KernelCache, rows: Int32Array, above: number, below: number): Fitted {
  const { alphas, offset, isDone } = solveDual(dual, kernel, mostSteps(dual.rows.length));
  const weights = new Map<number, number>();
  alphas.forEach((alpha, k) => {
    const row = at(rows, at(dual.rows, k));
    if (alpha > 0) weights.set(row, (weights.get(row) ?? 0) + alpha * at(dual.signs, k));
  });
  // Both sides of the tube may cancel each other.
  const kept = [...weights].filter(([, weight]) => weight !== 0).sort(([a], [b]) => a - b);
  return {
    above,
    below,
    vectors: Int32Array.from(kept, ([row]) => row),
    weights: Float64Array.from(kept, ([, weight]) => weight),
    offset,
    isDone,
  };
}

const takeRows = (columns: Columns, rows: Int32Array): Float64Array[] =>
  columns.map((column) => Float64Array.from(rows, (row) => column[row] ?? 0));

/** One decision for each two classes (one against one). */
function fitClasses(
  { codes, labels }: Extract<Target, { kind: 'classes' }>,
  columns: Columns,
  weights: Float64Array,
  values: Values,
): Fitted[] {
  const kernel = kernelOf(values, columns.length);
  const out: Fitted[] = [];
  const rows = indices(codes.length).filter((row) => at(weights, row) > 0);
  for (let first = 0; first < labels.length; first++)
    for (let second = first + 1; second < labels.length; second++) {
      const own = rows.filter((row) => codes[row] === first || codes[row] === second);
      // A class without rows never wins against one that has some.
      const hasFirst = own.some((row) => codes[row] === first);
      const hasSecond = own.some((row) => codes[row] === second);
      if (!hasFirst && !hasSecond) continue;
      const above = labels.length === 2 ? second : first;
      const below = labels.length === 2 ? first : second;
      const dual: Dual = {
        rows: indices(own.length),
        signs: Int8Array.from(own, (row) => (codes[row] === above ? 1 : -1)),
        linear: new Float64Array(own.length).fill(-1),
        limits: Float64Array.from(own, (row) => values.cost * at(weights, row)),
      };
      if (hasFirst && hasSecond)
        out.push(
          decisionOf(dual, new KernelCache(kernel, takeRows(columns, own), own.length), own, above, below),
        );
      else {
        const offset = (hasFirst ? first : second) === above ? -ONE_SIDED : ONE_SIDED;
        out.push({ above, below, vectors: [], weights: [], offset, isDone: true });
      }
    }
  return out;
}

/** What is said where only one of two classes has rows: its chance is 1 − 1e−13 of two classes. */
const ONE_SIDED = 30;

/** A line within a tube: what is less than its width off costs nothing (Vapnik, 1995). */
function fitNumbers(numbers: Float64Array, columns: Columns, weights: Float64Array, values: Values): Fitted {
  const rows = indices(numbers.length).filter((row) => at(weights, row) > 0);
  const count = rows.length;
  const twice = (of: (i: number, sign: number) => number) =>
    Float64Array.from({ length: 2 * count }, (_, k) => of(k % count, k < count ? 1 : -1));
  const dual: Dual = {
    rows: Int32Array.from({ length: 2 * count }, (_, k) => k % count),
    signs: Int8Array.from({ length: 2 * count }, (_, k) => (k < count ? 1 : -1)),
    linear: twice((i, sign) => values.tube - sign * at(numbers, at(rows, i))),
    limits: twice((i) => values.cost * at(weights, at(rows, i))),
  };
  const kernel = new KernelCache(kernelOf(values, columns.length), takeRows(columns, rows), count);
  return decisionOf(dual, kernel, rows, -1, -1);
}

function stateOf(
  { columns, means, deviations }: Standardised,
  decisions: readonly Fitted[],
  values: Values,
  classes: number,
  scale: { readonly mean: number; readonly deviation: number },
): MachineState {
  const rows = [...new Set(decisions.flatMap(({ vectors }) => Array.from(vectors)))].sort((a, b) => a - b);
  const placeOf = new Map(rows.map((row, place) => [row, place]));
  return {
    form: 'vector-machine',
    kernel: kernelOf(values, columns.length),
    means,
    deviations,
    vectors: rows.map((row) => Float64Array.from(columns, (column) => at(column, row))),
    decisions: decisions.map(({ above, below, vectors, weights, offset }) => ({
      above,
      below,
      vectors: Int32Array.from(Array.from(vectors), (row) => placeOf.get(row) ?? 0),
      weights,
      offset,
    })),
    classes,
    ...scale,
  };
}

function fit(training: Training, values: Values) {
  const { target, rowCount } = training;
  const scaled = standardise(training.design(), training.weights);
  const weights = training.weights ?? new Float64Array(rowCount).fill(1);
  let decisions: Fitted[];
  let scale = { mean: 0, deviation: 1 };
  if (target.kind === 'classes') decisions = fitClasses(target, scaled.columns, weights, values);
  else {
    const design = { rowCount, terms: [], columns: [target.values] };
    const { columns, means, deviations } = standardise(design, training.weights);
    scale = { mean: at(means, 0), deviation: at(deviations, 0) };
    decisions = [fitNumbers(at(columns, 0), scaled.columns, weights, values)];
  }
  const state = stateOf(
    scaled,
    decisions,
    values,
    target.kind === 'numbers' ? 0 : target.labels.length,
    scale,
  );
  return {
    state,
    description: { figures: { support_vectors: state.vectors.length } },
    warnings: [
      ...absent(training),
      ...(decisions.every(({ isDone }) => isDone)
        ? []
        : ['The vector machine was ended before it was as exact as usual: a lower cost is found sooner.']),
    ],
  };
}

export const vectorMachine = modelFamily({
  key: 'vector-machine',
  title: 'a support vector machine',
  about:
    'The boundary that leaves the widest margin between two classes, where rows on the wrong side cost something; with more classes one boundary for each two of them, and every one has a vote. Columns are standardised first (deviation with n). The kernel says how alike rows are: their inner product, a power of it, or exp(−d²/(2·width²)) of their distance d; a width of 0 stands for half the number of columns as width². Numbers are standardised too; what is off by less than the tube costs nothing. A higher cost and a smaller width make a more complex model. The probabilities follow the distance from the boundary, or the votes, and are not calibrated.',
  source: 'scikit-learn, StandardScaler with SVC and SVR (LIBSVM)',
  tasks: ['binary', 'multiclass', 'regression'],
  hyperparameters: [
    { key: 'cost', larger: 'complex', settings: [0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30, 100] },
    { key: 'width', larger: 'simple', settings: [0.1, 0.2, 0.5, 1, 2, 5, 10, 20] },
    { key: 'degree', larger: 'complex', settings: [1, 2, 3, 4, 5] },
  ],
  forms: [machineForm],
  starter: machineStarter,
  parameters: {
    kernel: {
      type: 'choice',
      label: 'kernel',
      choices: [
        { value: 'radial', text: 'a radial kernel' },
        { value: 'linear', text: 'a linear kernel' },
        { value: 'polynomial', text: 'a polynomial kernel' },
      ],
    },
    cost: { type: 'number', label: 'cost', min: 1e-6, max: 1e6, start: 1 },
    width: { type: 'number', label: 'width', min: 0, max: 1e6, start: 0 },
    degree: { type: 'number', label: 'degree', min: 1, max: 10, step: 1, start: 3 },
    constant: { type: 'number', label: 'constant', min: 0, max: 1e6, start: 0 },
    tube: { type: 'number', label: 'tube, in deviations of the target', min: 0, max: 10, start: 0.1 },
  },
  sentence: ({ kernel }) =>
    `{kernel}, cost {cost}${
      {
        linear: '',
        radial: ', width {width} (0: the usual)',
        polynomial: ', degree {degree}, constant {constant}',
      }[kernel]
    }; of numbers a tube of {tube}`,
  fit,
});
