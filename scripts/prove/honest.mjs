// Out-of-fold predictions made by scikit-learn, marked as those of a student: how often honest work loses its marks, and how
// often files that nobody made out of fold do.
import { Buffer } from 'node:buffer';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { readCsv } from '../../core/dist/data/formats/csv/read.js';
import { markAnswer } from '../../core/dist/assessment/disclosure/result.js';
import { questionKindOf } from '../../core/dist/assessment/questions/registry.js';
import { PUBLIC_SECRET } from '../../core/dist/foundation/random/secret.js';
import { ROOT } from '../machine.mjs';

/** Debian's own Python: another one on the path may lack scikit-learn. */
const PYTHON = '/usr/bin/python3';

/** Conditions of a mark for predictions over folds. */
const CONDITIONS = ['refit', 'work'];

const hasScikitLearn = () => spawnSync(PYTHON, ['-c', 'import sklearn']).status === 0;

function tablesOf(seed, tables) {
  const { stdout, stderr, status } = spawnSync(
    PYTHON,
    [join(ROOT, 'scripts/prove/honest.py'), String(seed), String(tables)],
    { encoding: 'utf8', maxBuffer: 2 ** 30 },
  );
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout);
}

/** The table as CSV, so that classes and numbers are read as those of an instructor. */
const csvOf = ({ numbers, x, y }) =>
  [
    ['id', ...x[0].map((_, c) => `x${c + 1}`), 'y'].join(','),
    ...x.map((cells, row) => [`r${row}`, ...cells, numbers ? y[row] : `c${y[row]}`].join(',')),
  ].join('\n');

const METRICS = { binary: 'roc_auc', multiclass: 'log_loss', regression: 'rmse' };

/** A question on the folds of a table, ready to be handed in to. */
function questionOn(one, { family, settings }) {
  const { table } = readCsv(Buffer.from(csvOf(one)), { file: 'table.csv' });
  const classes = new Set(one.y).size;
  /** @type {'binary' | 'multiclass' | 'regression'} */
  const task = one.numbers ? 'regression' : classes === 2 ? 'binary' : 'multiclass';
  const roles = {
    target: 'y',
    task,
    positive: task === 'binary' ? 'c1' : null,
    identifier: 'id',
    group: null,
    time: null,
    weight: null,
    withheld: [],
  };
  const kind = questionKindOf('folds');
  const begun = kind.begin('q1', { columns: table.columns, roles });
  const asked = { k: one.k, stratify: '', group: '', reports: 'predictions', metric: METRICS[task] };
  if (begun.kind !== 'folds') throw new Error('A question for folds begins as one.');
  const question = { ...begun, values: { ...begun.values, ...asked, family, settings } };
  const { rules, key } = kind.make(question, {
    table,
    roles,
    plan: { kind: 'draw', values: { sized: 'percent', training: 80, heldout: 20, seed: 1 } },
    parts: new Int8Array(table.rowCount),
    folds: null,
    division: new Uint8Array(table.rowCount),
    secret: PUBLIC_SECRET,
    curves: {},
    references: [],
  });
  const names = {
    binary: ['probability'],
    multiclass: [...new Set(one.y)].sort().map((label) => `p:c${label}`),
    regression: ['prediction'],
  }[task];
  const cells = (predicted) => (task === 'binary' ? [predicted[1]] : [predicted].flat());
  return (predicted) => {
    const file = [
      ['id', 'fold', ...names].join(','),
      ...predicted.map((found, row) => [`r${row}`, one.fold[row], ...cells(found)].join(',')),
    ].join('\n');
    return markAnswer(
      question,
      {
        file: { name: 'folds.csv', bytes: Buffer.from(file) },
        // Figures that nobody has: what is counted are the conditions, which do not depend on them.
        fields: { mean: '0.00001', se: '0.00001' },
      },
      rules,
      key,
      { who: { secret: PUBLIC_SECRET, question: 'q1', id: 'somebody' }, stepped: false, before: null },
    );
  };
}

/**
 * For each kind of file and family: how many there are, and how many fail each condition. Null where this machine has no
 * scikit-learn.
 */
export function honestRun({ seeds = [11, 12, 13, 14], tables = 21 } = {}) {
  if (!hasScikitLearn()) return null;
  const counts = new Map();
  for (const seed of seeds)
    for (const one of tablesOf(seed, tables))
      for (const { what, family, settings, predicted } of one.files) {
        const { holds, checks, judged } = questionOn(one, { family, settings })(predicted);
        const failed = [...checks, ...judged.map(({ check }) => check)].filter(
          ({ outcome }) => outcome === 'fails',
        );
        if (!holds) throw new Error(`${what} as ${family} could not be read: ${failed[0].message}`);
        const name = `${what}, ${family}`;
        const count = counts.get(name) ?? { what, family, files: 0, failed: 0 };
        count.files++;
        if (failed.some(({ id }) => CONDITIONS.includes(id))) count.failed++;
        counts.set(name, count);
      }
  return [...counts.values()];
}
