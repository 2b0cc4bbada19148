import { describe, expect, it } from '@jest/globals';
import { breastCancer, diabetes, testFile } from '../../test/files.js';
import { deviations, meanOf, modelCase, request } from '../../test/models.js';
import { seededRandom, shuffle } from '../foundation/random/random.js';
import { at, indices } from '../foundation/numbers.js';
import type { PlanValue } from '../data/sentence/parameter.js';
import type { Task } from '../data/table/roles.js';
import { figureOf } from '../metrics/judged.js';
import { metricNamed } from '../metrics/registry.js';
import { fitModel, judgedBy, predictRows } from './fitted.js';
import { targetRows } from './prepared/target.js';

/** Computed by test/reference/ensembles.py with scikit-learn, with twelve seeds. */
const { runs } = JSON.parse(new TextDecoder().decode(testFile('reference/ensembles.json'))) as {
  runs: {
    data: 'wine' | 'breast-cancer' | 'diabetes';
    family: 'forest' | 'boosting';
    values: Record<string, PlanValue>;
    scores: number[];
    log_loss?: number[];
    out_of_bag: number[];
  }[];
};

const DATA = {
  wine: { table: modelCase('tree-wine').table, task: 'multiclass' as Task },
  'breast-cancer': { table: breastCancer(), task: 'binary' as Task },
  diabetes: { table: diabetes(), task: 'regression' as Task },
};

describe('scores over folds against scikit-learn (test/reference/ensembles.py)', () => {
  it.each(runs)(
    '$data: $family $values',
    ({ data, family, values, scores, log_loss: losses, out_of_bag: bags }) => {
      const { table, task } = DATA[data];
      const rows = indices(table.rowCount);
      const names = table.columns.map(({ name }) => name).filter((name) => name !== 'target');
      const own = [1, 2, 3].map((seed) => {
        // Boosting draws nothing: there a seed is another order of the columns, as in the reference.
        const order = shuffle(indices(names.length), seededRandom(seed));
        const features = family === 'boosting' ? Array.from(order, (place) => at(names, place)) : names;
        const asked = request(table, 'target', task, family, values, { seed, features });
        const folds = [0, 1, 2, 3, 4].map((fold) => {
          const fitted = fitModel({ ...asked, rows: rows.filter((row) => row % 5 !== fold) });
          const test = rows.filter((row) => row % 5 === fold);
          const judged = judgedBy(targetRows(asked.target, test), predictRows(fitted, table, test));
          const figure = (key: string) => figureOf(metricNamed(key), judged).value ?? NaN;
          return task === 'regression' ? [figure('mse')] : [figure('accuracy'), figure('log_loss')];
        });
        const bag = bags.length > 0 ? fitModel(asked).description.growth?.heldOut?.values.at(-1) : null;
        return { folds, bag };
      });
      const ofFold = (metric: number) =>
        own.map(({ folds }) => meanOf(folds.map((fold) => at(fold, metric))));
      const oneRow = 1 / table.rowCount;
      const least = task === 'regression' ? meanOf(scores) / 200 : oneRow;
      expect(deviations(ofFold(0), scores, least)).toBeLessThan(3);
      if (losses) expect(deviations(ofFold(1), losses, meanOf(losses) / 50)).toBeLessThan(3);
      if (bags.length > 0)
        expect(
          deviations(
            own.map(({ bag }) => bag ?? NaN),
            bags,
            least,
          ),
        ).toBeLessThan(3);
    },
  );
});
