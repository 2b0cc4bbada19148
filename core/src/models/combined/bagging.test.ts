import { describe, expect, it } from '@jest/globals';
import { diabetes, tableOf, testFile } from '../../../test/files.js';
import { deviations, fit, meanOf, modelCase, request } from '../../../test/models.js';
import { indices } from '../../foundation/numbers.js';
import type { PlanValue } from '../../data/sentence/parameter.js';
import { figureOf } from '../../metrics/judged.js';
import { metricNamed } from '../../metrics/registry.js';
import { isOf } from '../contract/state.js';
import { fitModel, judgedBy, predictRows, readyFor } from '../fitted.js';
import { targetRows } from '../prepared/target.js';
import { combinedForm } from './combined-form.js';
import { memberIn, Members } from './members.js';

/** Computed by test/reference/combined.py with scikit-learn, with twelve seeds. */
const expected = JSON.parse(new TextDecoder().decode(testFile('reference/combined.json'))) as {
  bagging: Record<'wine' | 'diabetes', { scores: number[]; out_of_bag: number[] }>;
};

const DATA = {
  wine: { table: modelCase('tree-wine').table, task: 'multiclass' as const },
  diabetes: { table: diabetes(), task: 'regression' as const },
};

describe('bagging of one model', () => {
  it.each(['wine', 'diabetes'] as const)(
    'of trees on %s: scores over folds and the out-of-bag error within three deviations of scikit-learn',
    (data) => {
      const { table, task } = DATA[data];
      const theirs = expected.bagging[data];
      const rows = indices(table.rowCount);
      const key = task === 'regression' ? 'mse' : 'accuracy';
      const own = [1, 2, 3].map((seed) => {
        const asked = request(table, 'target', task, 'bagging', { models: 20 }, { seed });
        const folds = [0, 1, 2, 3, 4].map((fold) => {
          const fitted = fitModel({ ...asked, rows: rows.filter((row) => row % 5 !== fold) });
          const test = rows.filter((row) => row % 5 === fold);
          const judged = judgedBy(targetRows(asked.target, test), predictRows(fitted, table, test));
          return figureOf(metricNamed(key), judged).value ?? NaN;
        });
        const bag = fitModel(asked).description.growth?.heldOut?.values.at(-1) ?? NaN;
        return { score: meanOf(folds), bag };
      });
      const leastOf = (others: readonly number[]) =>
        task === 'regression' ? meanOf(others) / 200 : 1 / table.rowCount;
      expect(
        deviations(
          own.map(({ score }) => score),
          theirs.scores,
          leastOf(theirs.scores),
        ),
      ).toBeLessThan(3);
      expect(
        deviations(
          own.map(({ bag }) => bag),
          theirs.out_of_bag,
          leastOf(theirs.out_of_bag),
        ),
      ).toBeLessThan(3);
    },
  );

  it('of few models is the beginning of many, and the mean of what each says', () => {
    const { table, task } = DATA.wine;
    const few = fit(table, 'target', task, 'bagging', { models: 3, model: 'tree depth=3' });
    const many = fit(table, 'target', task, 'bagging', { models: 6, model: 'tree depth=3' });
    const membersOf = ({ state }: typeof few) => (isOf(combinedForm, state) ? state.members : []);
    expect(membersOf(many).slice(0, 3)).toEqual(membersOf(few));
    expect(many.description.growth?.heldOut?.values.slice(0, 3)).toEqual(
      few.description.growth?.heldOut?.values,
    );
    expect(few.description.growth).toMatchObject({ of: 'models', measure: 'error rate' });
  });

  it('draws rows again where a class is missing, and says when none can be drawn', () => {
    const rare = tableOf(
      `x,won\n${Array.from({ length: 40 }, (_, i) => `${i},${i < 2 ? 'yes' : 'no'}`).join('\n')}\n`,
    );
    const { state } = fit(rare, 'won', 'binary', 'bagging', { model: 'logistic', models: 20 });
    expect(isOf(combinedForm, state) ? state.members : []).toHaveLength(20);
    expect(() => fit(rare, 'won', 'binary', 'bagging', { model: 'logistic', share: 1 })).toThrow(
      'a class was always missing',
    );
  });

  it('refuses a model that it cannot fit', () => {
    const { table, task } = DATA.diabetes;
    const bag = (values: Record<string, PlanValue>) => fit(table, 'target', task, 'bagging', values);
    expect(() => bag({ model: 'bagging' })).toThrow('There is no model to combine “bagging”');
    expect(() => bag({ model: 'logistic' })).toThrow('does not predict for this task');
  });

  it('refuses models that are too large together', () => {
    const { table, task } = DATA.diabetes;
    const { training } = readyFor(request(table, 'target', task, 'bagging'));
    const member = memberIn('nearest', 'model');
    const numbers = table.rowCount * table.columns.length;
    const fits = new Members(training, 'models', 2.5 * numbers);
    fits.keep(member, training);
    fits.keep(member, training);
    expect(() => fits.keep(member, training)).toThrow('too large to be kept together');
  });
});
