import { describe, expect, it } from '@jest/globals';
import { asked, begun, failing, fileOf, material } from '../../../../test/asked.js';
import { tableOf, testFile } from '../../../../test/files.js';
import { at } from '../../../foundation/numbers.js';
import type { Roles, Task } from '../../../data/table/roles.js';
import { columnNamed, isCoded } from '../../../data/table/table.js';
import { labelsOf } from '../../../data/table/labels.js';

/** Work as scikit-learn and R make it: see honest.py and honest.R beside the files. */
interface Honest {
  /** Name, what is asked of it, and the part or fold of each row. */
  readonly splits: readonly (readonly [string, string, readonly number[]])[];
  readonly folds: readonly (readonly [string, string, readonly number[]])[];
  readonly predictions: readonly Predicted[];
  readonly cheats?: readonly Predicted[];
}
interface Predicted {
  readonly family: string;
  readonly model?: string;
  readonly what?: string;
  readonly fold: readonly number[];
  readonly predicted: readonly (number | readonly number[])[];
}

const read = (name: string) => new TextDecoder().decode(testFile(`reference/honest/${name}`));
const fromPython = JSON.parse(read('honest.json')) as Record<Task, Honest>;
const fromR = JSON.parse(read('honest-r.json')) as Record<Task, Honest>;

function materialOf(task: Task) {
  const table = tableOf(read(`${task}.csv`));
  const roles: Roles = {
    target: 'target',
    task,
    positive: task === 'binary' ? 'c1' : null,
    identifier: 'id',
    group: null,
    time: null,
    weight: null,
    withheld: ['group', 'time'],
  };
  return material({
    table,
    // The columns are judged by, and are no features.
    roles,
    parts: new Int8Array(table.rowCount),
    division: new Uint8Array(table.rowCount),
  });
}

const asks = (what: string) => ({
  stratify: what.includes('stratify') ? 'target' : '',
  group: what.includes('group') ? 'group' : '',
  time: what.includes('time') ? 'time' : '',
});

/** Models that have seen the row and are too stiff to show it. */
const MISSED = [
  'binary: in sample as logistic',
  'binary: in sample as naive-bayes',
  'multiclass: in sample as logistic',
];

describe.each(['binary', 'multiclass', 'regression'] as const)('honest work on a %s target', (task) => {
  const from = materialOf(task);
  const open = { ...from, roles: { ...from.roles, withheld: [] } };
  const rows = Array.from({ length: from.table.rowCount }, (_, row) => row);
  const sources = [fromPython[task], fromR[task]];

  /** Keys take long to make, and many files answer the same question. */
  const made = new Map<string, ReturnType<typeof asked>>();
  function of(kind: 'split' | 'folds', values: Record<string, string | number>, material: typeof from) {
    const name = JSON.stringify([kind, values, material.roles.withheld]);
    const question = made.get(name) ?? asked(begun(kind, { values }), material);
    made.set(name, question);
    return question;
  }

  it('of a split passes every check that is asked of it', () => {
    const failed = sources
      .flatMap(({ splits }) => splits)
      .flatMap(([name, what, parts]) => {
        const question = of('split', { training: 80, ...asks(what) }, open);
        const file = `id,part\n${rows.map((row) => `r${row},${parts[row] === 1 ? 'test' : 'training'}`).join('\n')}\n`;
        return failing(question.hand({ file: fileOf(file) })).map((id) => `${name}: ${id}`);
      });
    expect(failed).toEqual([]);
  });

  it('of folds passes every check that is asked of it', () => {
    const failed = sources
      .flatMap(({ folds }) => folds)
      // Assigns each group by itself, so that folds may be nearly empty.
      .filter(([name]) => name !== 'groupKFold')
      .flatMap(([name, what, fold]) => {
        const { stratify, group } = asks(what);
        const question = of('folds', { k: 5, stratify, group, reports: 'nothing' }, open);
        const file = `id,fold\n${rows.map((row) => `r${row},${fold[row]}`).join('\n')}\n`;
        return failing(question.hand({ file: fileOf(file) })).map((id) => `${name}: ${id}`);
      });
    expect(failed).toEqual([]);
  });

  /** Checks that out-of-fold predictions fail, with the figures that they have, and the slips in them. */
  function handed({ family, fold, predicted }: Predicted): { failed: string[]; slips: string[] } {
    const target = columnNamed(from.table, 'target');
    const labels = task === 'regression' ? [] : labelsOf(target).labels;
    const names =
      task === 'regression'
        ? ['prediction']
        : task === 'binary'
          ? ['probability']
          : labels.map((label) => `p:${label}`);
    const cells = (row: number) => {
      const one = at(predicted, row);
      if (typeof one === 'number') return [one];
      return task === 'binary' ? [at(one, 1)] : one;
    };
    const metric = { binary: 'roc_auc', multiclass: 'log_loss', regression: 'rmse' }[task];
    const settings = family === 'tree' ? 'depth=4' : '';
    const question = of(
      'folds',
      { k: 5, stratify: '', group: '', reports: 'predictions', metric, family, settings },
      from,
    );
    const file = `id,fold,${names.join(',')}\n${rows.map((row) => `r${row},${fold[row]},${cells(row).join(',')}`).join('\n')}\n`;
    const hand = (mean: string, se: string) => question.hand({ file: fileOf(file), fields: { mean, se } });
    // The figures as a student of the same files would find them: those that the check expects.
    const first = hand('0.00001', '0.00001');
    if (!first.holds) return { failed: failing(first), slips: [] };
    const evidence = first.judged.find(({ check }) => check.id === 'evidence')?.check.measured ?? '';
    const [, mean = '1', se = '1'] = /mean ([\d.e-]+), standard error ([\d.e-]+)/.exec(evidence) ?? [];
    const result = hand(mean, se);
    const failed = failing(result).map(
      (id) => `${id} ${result.judged.find(({ check }) => check.id === id)?.check.measured ?? ''}`,
    );
    return { failed, slips: (result.slips ?? []).map(({ id }) => id) };
  }

  it.each(
    sources.flatMap(({ predictions }) =>
      predictions.map((one) => [`${one.model ?? ''} as ${one.family}`, one] as const),
    ),
  )('%s out of fold passes', (_, one) => {
    expect(handed(one)).toEqual({ failed: [], slips: [] });
  });

  it.each(
    (fromPython[task].cheats ?? [])
      .map((one) => [`${one.what ?? ''} as ${one.family}`, one] as const)
      .filter(([name]) => !MISSED.includes(`${task}: ${name}`)),
  )('%s does not pass', (_, one) => {
    const { failed, slips } = handed(one);
    expect(failed.join()).toMatch(/^refit|,refit|work/);
    expect(slips).toEqual(one.what === 'in sample' ? ['in-sample-predictions'] : []);
  });

  it('is of tables in which classes and numbers are what they are called', () => {
    expect(isCoded(columnNamed(from.table, 'target'))).toBe(task !== 'regression');
  });
});
