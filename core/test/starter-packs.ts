import { strFromU8, unzipSync } from 'fflate';
import { tableOf } from './files.js';
import { draw } from './plans.js';
import { secretOf } from './secrets.js';
import { assignmentOf } from '../src/splitting/folds/fold-assignment.js';
import { makeFolds } from '../src/splitting/folds/folds.js';
import { firstScheme } from '../src/assessment/marking/scheme.js';
import { metricNamed } from '../src/metrics/registry.js';
import type { Question } from '../src/assessment/questions/question.js';
import type { PredictionsRules } from '../src/assessment/questions/predictions/question.js';
import { seededRandom } from '../src/foundation/random/random.js';
import { splitRows } from '../src/splitting/splits/split.js';
import { type Roles, type Task } from '../src/data/table/roles.js';
import { makePack } from '../src/assessment/packs/pack.js';
import { type PackRequest } from '../src/assessment/packs/pack-request.js';

/** Identifiers as they occur: each form loses something where a program reads it as another kind. */
export const IDENTIFIERS: Record<string, (row: number) => string> = {
  zeros: (row) => String(row * 7).padStart(5, '0'),
  integers: (row) => String(row * 7),
  decimals: (row) => `${row}.50`,
  words: (row) => `"Stock ${row}, ""Bär"" 'é'"`,
  truths: (row) => (row === 0 ? 'true' : `N-${row}`),
};

const TARGETS: Record<Task, { readonly column: string; readonly positive: string | null }> = {
  binary: { column: 'survived', positive: 'true' },
  multiclass: { column: 'strength', positive: null },
  regression: { column: 'honey', positive: null },
};

const ROWS = 90;

/** Colonies with gaps, odd levels, dates and notes. */
export const tableFor = (identifier: (row: number) => string) => {
  const random = seededRandom(20, 'starters');
  const lines = Array.from({ length: ROWS }, (_, row) => {
    const mites = random.unit() * 9;
    const hive = ['Warré', '"wood, old"', '"log ""1"""', '010'][random.below(4)] ?? '';
    return [
      identifier(row),
      row % 11 === 0 ? '' : mites.toFixed(2),
      row % 13 === 0 ? '' : hive,
      `2026-0${1 + random.below(9)}-1${random.below(9)}`,
      random.unit() < 0.5 ? 'true' : 'false',
      `seen by nobody ${row}`,
      String(mites + 3 * random.unit() < 6),
      ['1', '02', 'ten'][random.below(3)],
      (30 - mites + random.unit()).toFixed(2),
    ].join(',');
  });
  return tableOf(
    `colony,mite wash,hive,inspected,moved,notes,survived,strength,honey\n${lines.join('\n')}\n`,
  );
};

export const rolesFor = (task: Task, identifier: string | null = 'colony'): Roles => ({
  target: TARGETS[task].column,
  positive: TARGETS[task].positive,
  task,
  identifier,
  group: null,
  time: null,
  weight: null,
  withheld: [
    'notes',
    ...Object.values(TARGETS).flatMap(({ column }) => (column === TARGETS[task].column ? [] : [column])),
    ...(identifier === null ? ['colony'] : []),
  ],
});

export const METRIC = { binary: 'roc_auc', multiclass: 'log_loss', regression: 'rmse' } as const;

export function packOf(task: Task, over: Partial<PackRequest>, question?: Question) {
  const table = over.table ?? tableFor((row) => `c${row}`);
  const plan = draw({ shares: { training: 60, validation: 10, heldout: 30 }, seed: 4 });
  const { parts } = splitRows(table, plan);
  const usable = Uint8Array.from(parts, (part) => (part === 0 ? 1 : 0));
  const metric = METRIC[task];
  const pack = makePack({
    table,
    roles: rolesFor(task),
    plan,
    parts,
    folds: assignmentOf(makeFolds(table, { method: 'k-fold', k: 4, seed: 2 }, usable)),
    curves: {},
    references: [],
    descriptions: {},
    questions: [
      question ?? {
        id: 'q1',
        kind: 'predictions',
        title: '',
        text: '',
        metric,
        scheme: firstScheme(metricNamed(metric), 0.1),
      },
    ],
    title: 'Which colonies?',
    brief: '',
    conditions: [],
    reissued: false,
    reserve: new Uint8Array(table.rowCount),
    earlier: [],
    secret: secretOf(5),
    ...over,
  });
  const files = unzipSync(pack.zip);
  const rules = pack.questions[0]?.rules as PredictionsRules;
  return { files, rules, text: (name: string) => strFromU8(files[name] ?? new Uint8Array()) };
}

export type PreparedQuestion = ReturnType<typeof packOf>;
