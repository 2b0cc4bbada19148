import { describe, expect, it } from '@jest/globals';
import { has, runPrograms } from '../../../test/programs.js';
import { metricsFor } from '../../metrics/registry.js';
import { modelOf } from '../../models/registry.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { Task } from '../../data/table/roles.js';
import { starterFigure } from './figures.js';
import type { StarterRequest } from './request.js';

const ROWS = 60;
const TASKS = ['binary', 'multiclass', 'regression'] as const;
const LABELS = { binary: ['no', 'yes'], multiclass: ['a', 'b', 'c'], regression: [] } as const;
const random = seededRandom(9, 'figures');
const truths = Array.from({ length: ROWS }, () => random.unit());
const drawn = [0, 1, 2].map(() => Array.from({ length: ROWS }, () => 0.05 + random.unit()));

const requestFor = (task: Task, metric: string): StarterRequest => ({
  title: '',
  identifier: 'row',
  target: 'y',
  task,
  labels: LABELS[task],
  positive: task === 'binary' ? 'yes' : null,
  needs: 'labels',
  features: [],
  weight: null,
  model: modelOf('mean'),
  folds: 'none',
  seed: 0,
  metric,
});

/** Made-up predictions of a task, as this program judges them. */
function dataOf(task: Task) {
  const labels = LABELS[task];
  const sums = truths.map((_, row) => labels.reduce((sum, _label, l) => sum + (drawn[l]?.[row] ?? 0), 0));
  const probabilities = labels.map((_, l) =>
    Float64Array.from(sums, (sum, row) => (drawn[l]?.[row] ?? 0) / sum),
  );
  const surest = (row: number) =>
    labels.reduce((best, _, l) => ((drawn[l]?.[row] ?? 0) > (drawn[best]?.[row] ?? 0) ? l : best), 0);
  return {
    labels,
    truth: Int32Array.from(truths, (truth) => Math.floor(truth * labels.length)),
    predicted: Int32Array.from(truths, (_, row) => surest(row)),
    probabilities,
    positive: task === 'binary' ? 1 : null,
    weights: null,
  };
}
const numbers = {
  truth: Float64Array.from(truths),
  predicted: Float64Array.from(drawn[0] ?? []),
  weights: null,
  features: null,
};

const LANGUAGES = {
  python: {
    begin: ['import pandas as pd', 'from sklearn.metrics import *'],
    list: (values: readonly string[]) => `[${values.join(', ')}]`,
    data: {
      truth: (of: string) => `truth = pd.Series(${of})`,
      said: (of: string) => `said = pd.Series(${of}).to_numpy()`,
      chances: (labels: string, columns: readonly string[]) =>
        `chances = pd.DataFrame(dict(zip(${labels}, [${columns.join(', ')}])))`,
    },
    // The score of a figure that cannot be computed would otherwise end all others.
    show: (key: string, expression: string) => `print(${JSON.stringify(key)}, repr(float(${expression})))`,
  },
  r: {
    begin: [],
    list: (values: readonly string[]) => `c(${values.join(', ')})`,
    data: {
      truth: (of: string) =>
        `truth <- ${of}; if (is.character(truth)) truth <- factor(truth, levels = labels)`,
      said: (of: string) => `said <- ${of}`,
      chances: (_labels: string, columns: readonly string[]) => `chances <- cbind(${columns.join(', ')})`,
    },
    show: (key: string, expression: string) =>
      `cat(${JSON.stringify(key)}, format(${expression}, digits = 17), "\\n")`,
  },
} as const;

describe.each(['python', 'r'] as const)('figures of starters in %s', (language) => {
  const here = has(language) ? it : it.skip;

  here.each(TASKS)('are those of this program: %s', (task) => {
    const { begin, list, data, show } = LANGUAGES[language];
    const found = dataOf(task);
    const text = (code: number) => JSON.stringify(found.labels[code]);
    const isNumber = task === 'regression';
    const labels = list(found.labels.map((label) => JSON.stringify(label)));
    const metrics = metricsFor(task).flatMap((metric) => {
      const figure = starterFigure(requestFor(task, metric.key), language);
      return figure.isAsked ? [{ metric, figure }] : [];
    });
    const program = [
      ...begin,
      language === 'r' ? `labels <- ${labels}` : '',
      data.truth(list(isNumber ? truths.map(String) : Array.from(found.truth, text))),
      data.said(list(isNumber ? Array.from(numbers.predicted, String) : Array.from(found.predicted, text))),
      isNumber
        ? ''
        : data.chances(
            labels,
            found.probabilities.map((of) => list(Array.from(of, String))),
          ),
      ...metrics.map(({ metric, figure }) => show(metric.key, figure.expression)),
    ].join('\n');
    const printed = runPrograms(language, [{ name: task, program, files: {} }], 'none').get(task)?.said ?? '';
    const values = new Map(
      printed.split('\n').map((line) => [line.split(' ')[0] ?? '', Number(line.split(' ')[1])] as const),
    );
    expect(metrics.length).toBeGreaterThan(language === 'r' ? 2 : 8);
    for (const { metric } of metrics) {
      const own = metric.needs === 'numbers' ? metric.compute(numbers) : metric.compute(found);
      expect([metric.key, values.get(metric.key)]).toEqual([metric.key, expect.closeTo(own.value ?? NaN, 9)]);
    }
  });

  it('of a metric that takes more than a line is another one, and says so', () => {
    const figure = starterFigure(requestFor('binary', 'calibration_error'), language);
    expect(figure).toMatchObject({ name: 'accuracy', isAsked: false });
  });
});
