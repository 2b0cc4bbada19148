import { describe, expect, it } from '@jest/globals';
import { bytesOf, tableOf } from '../../../test/files.js';
import { chancesOf, fitModel, predictRows } from '../../models/fitted.js';
import { targetOf } from '../../models/prepared/target.js';
import { modelFromSettings } from '../../models/settings.js';
import { at, indices } from '../../numbers.js';
import { seededRandom } from '../../random/random.js';
import { columnsFor } from '../columns.js';
import { readModel } from '../read-model.js';
import { writePmml } from './write-pmml.js';

const random = seededRandom(4, 'pmml');
const HIVES = ['Dadant', 'Langstroth & "Co"', 'Warré <long>', 'top bar'];
/** 200 colonies, of which some cells are missing. */
const ROWS = Array.from({ length: 200 }, (_, i) => {
  const mites = random.unit() * 10;
  const hive = at(HIVES, random.below(4));
  const survived = mites + (hive === 'top bar' ? -3 : 0) + random.unit() * 4 < 6 ? 'yes' : 'no';
  const honey = 30 - mites + (hive === 'Dadant' ? 8 : 0) + random.unit();
  return [
    i % 17 === 0 ? '' : mites.toFixed(3),
    i % 13 === 0 ? '' : `"${hive.replaceAll('"', '""')}"`,
    survived,
    honey.toFixed(2),
  ].join(',');
});
const table = tableOf(`mites,hive,survived,honey\n${ROWS.join('\n')}\n`);
/** A level and a combination that no training row had. */
const fresh = tableOf(`mites,hive\n3,log\n,log\n,\n,top bar\n12,\n0.1,Dadant\n`);

const fitted = (name: string, settings: readonly string[], target: 'survived' | 'honey') => {
  const task = target === 'honey' ? 'regression' : 'binary';
  const made = targetOf(table, { target, task, positive: task === 'binary' ? 'yes' : null });
  return fitModel({
    table,
    model: modelFromSettings(name, settings, 'set'),
    task,
    targetName: target,
    target: made,
    features: ['mites', 'hive'],
    rows: indices(table.rowCount),
    weights: null,
    seed: 1,
  });
};

describe('a fitted model that is written as PMML', () => {
  it.each([
    ['most-frequent', [], 'survived'],
    ['class-shares', [], 'survived'],
    ['mean', [], 'honey'],
    ['linear', [], 'honey'],
    ['lasso', ['penalty=0.2'], 'honey'],
    ['logistic', [], 'survived'],
    ['ridge', ['penalty=0.1'], 'survived'],
    ['tree', ['depth=4', 'criterion=gini'], 'survived'],
    ['tree', ['depth=5'], 'honey'],
    ['tree', ['depth=5', 'branches=each'], 'survived'],
    ['tree', ['depth=4', 'criterion=gini', 'missing=stop'], 'survived'],
    ['naive-bayes', ['kind=mixed'], 'survived'],
  ] as const)(
    '%s %j of %s predicts the same, missing and unseen values too',
    async (name, settings, target) => {
      const model = fitted(name, settings, target);
      const read = readModel(bytesOf(writePmml(model, new Set())), 'model.pmml', { columns: [] });
      for (const rows of [table, fresh]) {
        const columns = rows.columns.map((column) => column.name);
        const { values, probabilities } = await read.predict(rows, columnsFor(read.inputs, columns));
        const own = predictRows(model, rows, indices(rows.rowCount));
        if (target === 'honey') {
          own[0]?.forEach((value, row) => expect(values[row]).toBeCloseTo(value, 10));
          continue;
        }
        const shares = chancesOf(own, model.positive);
        expect(probabilities?.labels).toEqual(model.labels);
        shares.forEach((values_, label) =>
          values_.forEach((share, row) => expect(probabilities?.values[label]?.[row]).toBeCloseTo(share, 10)),
        );
      }
    },
  );

  it.each([
    ['nearest', [], 'survived', 'nearest neighbours'],
    ['naive-bayes', ['kind=kernel'], 'survived', 'Naive Bayes of the kind kernel'],
    ['linear', [], 'survived', 'A line for classes'],
  ] as const)(
    '%s %j is refused, since PMML has no element for it here',
    (name, settings, target, message) => {
      expect(() => writePmml(fitted(name, settings, target), new Set())).toThrow(message);
    },
  );

  it('of dates is refused', () => {
    expect(() => writePmml(fitted('linear', [], 'honey'), new Set(['mites']))).toThrow('mites holds dates');
  });
});
