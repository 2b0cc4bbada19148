import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { codeOfNotebook, has, runPrograms, type Language } from '../../../test/programs.js';
import { checkPredictions } from '../files/predictions.js';
import { columnsFor } from '../model-files/columns.js';
import { readModel } from '../model-files/read-model.js';
import { fitModel, predictRows } from '../../models/fitted.js';
import { targetOf } from '../../models/prepared/target.js';
import { MODEL_FAMILIES, modelOf } from '../../models/registry.js';
import { indices } from '../../foundation/numbers.js';
import { writeStarter } from '../starter/starter.js';
import { featuresOf } from '../../data/table/roles.js';
import {
  IDENTIFIERS,
  tableFor,
  rolesFor,
  METRIC,
  packOf,
  type PreparedQuestion,
} from '../../../test/starter-packs.js';

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
    const families = MODEL_FAMILIES.filter(({ tasks }) => tasks.includes(task)).map(({ key }) =>
      modelOf(key),
    );
    const members = ['tree depth=3', 'nearest'];
    const others = ['vote', 'stack'].map((by) => modelOf('combination', { by, members }));
    return [...families, ...others].map((model): [string, PreparedQuestion, string] => [
      `${model.kind} ${String(model.values['by'] ?? '')} ${task}`,
      made,
      writeStarter(
        {
          title: model.kind,
          identifier: 'colony',
          target: roles.target,
          task,
          labels: made.rules.labels,
          positive: roles.positive,
          needs: made.rules.needs,
          features: featuresOf(table, roles),
          weight: null,
          model,
          folds: 'assigned',
          seed: 3,
          metric: METRIC[task],
        },
        language === 'python' ? 'script' : 'r',
      ),
    ]);
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
        group: null,
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
