import { rowsOfPart } from '../../../splitting/parts/parts.js';
import { partition } from '../../../splitting/splits/partition.js';
import { columnNamed, cellText } from '../../../data/table/table.js';
import { askedOf, figures, generator } from '../generator.js';
import { refuseManyClasses, targetFigure } from './target-by-value.js';

export const ownSplit = generator({
  key: 'own-split',
  title: 'a split with a seed',
  about:
    'Rows of both parts when the training rows are split by this program’s own algorithm with a stated seed, as `sieve split training.csv` gives them, and their target: the mean, or the share of the positive class.',
  text: 'Split the training rows with `{command}`. “Target” stands for the share of the positive class, or the mean.',
  from: 'data',
  of: 'data',
  parameters: {
    method: {
      type: 'choice',
      label: 'method',
      choices: [
        { value: 'random', text: 'at random' },
        { value: 'stratified', text: 'with equal shares of the classes' },
      ],
    },
    share: { type: 'number', label: 'share of test rows', unit: '%', min: 1, max: 90, step: 1, start: 20 },
    seed: { type: 'number', label: 'seed', min: 0, step: 1, start: 1 },
    asked: figures(
      [
        'test rows',
        'rows left to train on',
        'positive test rows',
        'target of the test rows',
        'target of the rows left to train on',
      ],
      ['test rows', 'positive test rows'],
    ),
  },
  sentence: () => 'Split {method}, {share} for testing, with seed {seed}; ask for {asked}.',
  check: (_, __, roles) => {
    refuseManyClasses(roles);
  },
  compute({ method, share, seed, asked }, { table, roles }) {
    refuseManyClasses(roles);
    const { parts } = partition(table, {
      method,
      parts: [
        { name: 'train', rest: true },
        { name: 'test', share: share / 100 },
      ],
      seed,
      ...(method === 'stratified' ? { stratify: roles.target } : {}),
    });
    const [rest, test] = [0, 1].map((part) => rowsOfPart(parts, part));
    const target = columnNamed(table, roles.target);
    const positive =
      roles.task === 'binary'
        ? { value: (test ?? []).filter((row) => cellText(target, row) === roles.positive).length }
        : ({ value: null, reason: 'the target has no positive class' } as const);
    const stratify = method === 'stratified' ? ` --stratify "${roles.target}"` : '';
    return {
      given: {
        command: `sieve split training.csv --parts train=rest,test=${share / 100}${stratify} --seed ${seed}`,
        share: String(share),
        seed: String(seed),
      },
      table: null,
      asked: askedOf(
        {
          'test rows': test?.length ?? 0,
          'rows left to train on': rest?.length ?? 0,
          'positive test rows': positive,
          'target of the test rows': targetFigure(table, roles, (row) => parts[row] === 1),
          'target of the rows left to train on': targetFigure(table, roles, (row) => parts[row] === 0),
        },
        asked,
      ),
    };
  },
});
