import { cellText, columnNamed } from '../../../data/table/table.js';
import { makeFolds, testRows } from '../../../splitting/folds/folds.js';
import { askedOf, figures, generator } from '../generator.js';

export const ownFolds = generator({
  key: 'own-folds',
  title: 'folds with a seed',
  about:
    'Sizes of folds of the training rows and what a grid over them takes, when they are made by this program’s own algorithm with a stated seed, as `sieve folds training.csv` gives them.',
  text: 'Make folds of the training rows with `{command}`. Every setting of a grid of {settings} is tried in each.',
  from: 'data',
  of: 'data',
  parameters: {
    method: {
      type: 'choice',
      label: 'method',
      choices: [
        { value: 'k-fold', text: 'at random' },
        { value: 'stratified', text: 'with equal shares of the classes' },
      ],
    },
    k: { type: 'number', label: 'folds', min: 2, max: 50, step: 1, start: 5 },
    seed: { type: 'number', label: 'seed', min: 0, step: 1, start: 1 },
    settings: { type: 'number', label: 'settings of the grid', min: 1, max: 100_000, step: 1, start: 24 },
    asked: figures(
      [
        'test rows of the first fold',
        'positive test rows of the first fold',
        'rows that train in the first fold',
        'largest test fold',
        'smallest test fold',
        'fits of the grid',
        'fits with the last one on all rows',
      ],
      ['largest test fold', 'fits of the grid'],
    ),
  },
  sentence: () =>
    'Make {k} folds {method} with seed {seed}, for a grid of {settings} settings; ask for {asked}.',
  compute({ method, k, seed, settings, asked }, { table, roles }) {
    const isStratified = method === 'stratified';
    const folds = makeFolds(table, { method, k, seed, ...(isStratified ? { stratify: roles.target } : {}) });
    const tests = Array.from({ length: k }, (_, fold) => testRows(folds, 0, fold));
    const sizes = tests.map((rows) => rows.length);
    const target = columnNamed(table, roles.target);
    const [first] = tests;
    return {
      given: {
        command: `sieve folds training.csv --k ${k}${isStratified ? ` --stratify "${roles.target}"` : ''} --seed ${seed}`,
        settings: String(settings),
        k: String(k),
      },
      table: null,
      asked: askedOf(
        {
          'test rows of the first fold': first?.length ?? 0,
          'positive test rows of the first fold':
            roles.task === 'binary'
              ? (first ?? []).filter((row) => cellText(target, row) === roles.positive).length
              : { value: null, reason: 'the target has no positive class' },
          'rows that train in the first fold': folds.training(0, 0).length,
          'largest test fold': Math.max(...sizes),
          'smallest test fold': Math.min(...sizes),
          'fits of the grid': settings * k,
          'fits with the last one on all rows': settings * k + 1,
        },
        asked,
      ),
    };
  },
});
