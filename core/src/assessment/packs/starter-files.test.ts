import { describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import { tableOf } from '../../../test/files.js';
import { draw } from '../../../test/plans.js';
import { codeOfNotebook, has, runPrograms, type Language } from '../../../test/programs.js';
import { secretOf } from '../../../test/secrets.js';
import { checkPredictions } from '../files/predictions.js';
import { assignmentOf } from '../../splitting/folds/fold-assignment.js';
import { makeFolds } from '../../splitting/folds/folds.js';
import { firstScheme } from '../marking/scheme.js';
import { metricNamed } from '../../metrics/registry.js';
import { columnsFor } from '../model-files/columns.js';
import { readModel } from '../model-files/read-model.js';
import { fitModel, predictRows } from '../../models/fitted.js';
import { targetOf } from '../../models/prepared/target.js';
import { MODEL_FAMILIES, modelOf } from '../../models/registry.js';
import { indices } from '../../foundation/numbers.js';
import type { Question } from '../questions/question.js';
import type { PredictionsRules } from '../questions/predictions/question.js';
import { seededRandom } from '../../foundation/random/random.js';
import { splitRows } from '../../splitting/splits/split.js';
import { writeStarter } from '../starter/starter.js';
import { featuresOf, type Roles, type Task } from '../../data/table/roles.js';
import { makePack } from './pack.js';
import { type PackRequest } from './pack-request.js';

/** Identifiers as they occur: each form loses something where a program reads it as another kind. */
const IDENTIFIERS: Record<string, (row: number) => string> = {
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
const tableFor = (identifier: (row: number) => string) => {
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

const rolesFor = (task: Task, identifier: string | null = 'colony'): Roles => ({
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

const METRIC = { binary: 'roc_auc', multiclass: 'log_loss', regression: 'rmse' } as const;

function packOf(task: Task, over: Partial<PackRequest>, question?: Question) {
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
type PreparedQuestion = ReturnType<typeof packOf>;

const programs: Record<Language, readonly ((made: PreparedQuestion) => string)[]> = {
  python: [(made) => made.text('starter.py'), (made) => codeOfNotebook(made.text('starter-python.ipynb'))],
  r: [(made) => codeOfNotebook(made.text('starter-r.ipynb'))],
};

/** Starters of every form of identifier, and of rows that have none of their own. */
const packs = (): [string, PreparedQuestion][] => [
  ...Object.entries(IDENTIFIERS).map(([name, identifier]): [string, PreparedQuestion] => [
    name,
    packOf('binary', { table: tableFor(identifier) }),
  ]),
  ['numbered', packOf('binary', { reissued: true })],
  ['none', packOf('multiclass', { roles: rolesFor('multiclass', null) })],
  ['numbers', packOf('regression', {})],
];

/** Every family on a pack of its task, as a run of it is repeated. */
function runs(language: Language): [string, PreparedQuestion, string][] {
  const table = tableFor(IDENTIFIERS['zeros'] ?? String);
  return (['binary', 'multiclass', 'regression'] as const).flatMap((task) => {
    const roles = rolesFor(task);
    const made = packOf(task, { table });
    return MODEL_FAMILIES.filter(({ tasks }) => tasks.includes(task)).map(
      ({ key }): [string, PreparedQuestion, string] => [
        `${key} ${task}`,
        made,
        writeStarter(
          {
            title: key,
            identifier: 'colony',
            target: roles.target,
            task,
            labels: made.rules.labels,
            positive: roles.positive,
            needs: made.rules.needs,
            features: featuresOf(table, roles),
            weight: null,
            model: modelOf(key),
            folds: 'assigned',
            seed: 3,
            metric: METRIC[task],
          },
          language === 'python' ? 'script' : 'r',
        ),
      ],
    );
  });
}

/** What is not installed with R itself. */
const R_PACKAGES = /library\((glmnet|e1071)\)/;

describe.each(['python', 'r'] as const)('starters in %s', (language) => {
  const here = has(language) ? it : it.skip;

  here('run as they are on identifiers of every form, and their file is taken', () => {
    const work = packs().flatMap(([name, made]) =>
      programs[language].map((program, form) => ({
        name: `${name} ${form}`,
        made,
        program: program(made),
        files: made.files,
      })),
    );
    const found = runPrograms(language, work, 'predictions.csv');
    for (const { name, made } of work) expectTaken(name, made, found);
  });

  here('repeat runs of every family', () => {
    const work = runs(language).flatMap(([name, made, starter]) => {
      const program = language === 'r' ? codeOfNotebook(starter) : starter;
      return R_PACKAGES.test(program) ? [] : [{ name, made, program, files: made.files }];
    });
    const found = runPrograms(language, work, 'predictions.csv');
    expect(work.length).toBeGreaterThan(15);
    for (const { name, made } of work) {
      expectTaken(name, made, found);
      expect([name, found.get(name)?.said]).toEqual([
        name,
        expect.stringMatching(/(root mean squared error|area under the ROC curve|log loss).* \d/),
      ]);
    }
  });

  here('save a table of coefficients that says what their own model says', async () => {
    const work = (['binary', 'regression'] as const).map((task) => {
      const made = packOf(task, {});
      const roles = rolesFor(task);
      const table = tableFor((row) => `c${row}`);
      const features = featuresOf(table, roles).filter(({ kind }) => kind !== 'time');
      const starter = writeStarter(
        {
          title: task,
          identifier: 'colony',
          target: roles.target,
          task,
          labels: made.rules.labels,
          positive: roles.positive,
          needs: made.rules.needs,
          features,
          weight: null,
          model: modelOf(task === 'binary' ? 'logistic' : 'linear'),
          folds: 'none',
          seed: 3,
          saves: 'coefficients',
        },
        language === 'r' ? 'r' : 'script',
      );
      const program = language === 'r' ? codeOfNotebook(starter) : starter;
      return { name: task, task, made, program, files: made.files, table, features };
    });
    const found = runPrograms(language, work, 'model.csv');
    for (const { name, task, made, table, features } of work) {
      const { said, written } = found.get(name) ?? { said: 'nothing', written: null };
      expect([said, written !== null]).toEqual([expect.anything(), true]);
      const columns = features.map((feature) => feature.name);
      const link = task === 'binary' ? ({ link: 'logit', positive: 'true', negative: 'false' } as const) : {};
      const model = readModel(written ?? new Uint8Array(), 'model.csv', { columns, ...link });
      const training = tableOf(made.text('training.csv'));
      const predicted = await model.predict(training, columnsFor(model.inputs, columns));
      // The same model fitted here, on rows without gaps alike.
      const roles = rolesFor(task);
      const own = fitModel({
        table: training,
        model: modelOf(task === 'binary' ? 'logistic' : 'linear'),
        task,
        targetName: roles.target,
        target: targetOf(training, { target: roles.target, task, positive: roles.positive }),
        features: columns,
        rows: indices(training.rowCount),
        weights: null,
        seed: 0,
      });
      const wanted = predictRows(own, training, indices(training.rowCount));
      const shares = task === 'binary' ? predicted.probabilities?.values[1] : predicted.values;
      const place = task === 'binary' ? own.labels.indexOf('true') : 0;
      let compared = 0;
      shares?.forEach((value, row) => {
        if (value === null || Number.isNaN(value)) return;
        compared++;
        expect(value).toBeCloseTo(wanted[place]?.[row] ?? NaN, 3);
      });
      expect([table.rowCount > compared, compared > 30]).toEqual([true, true]);
    }
  });
});

function expectTaken(name: string, made: PreparedQuestion, found: ReturnType<typeof runPrograms>): void {
  const { said, written } = found.get(name) ?? { said: 'nothing', written: null };
  const failed = written
    ? checkPredictions(written, 'predictions.csv', made.rules).checks.filter(
        ({ outcome }) => outcome === 'fails',
      )
    : said;
  expect([name, failed]).toEqual([name, []]);
}
