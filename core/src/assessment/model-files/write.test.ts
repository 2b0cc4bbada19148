import { describe, expect, it } from '@jest/globals';
import { bytesOf, tableOf } from '../../../test/files.js';
import { chancesOf, likeliest } from '../../models/contract/chances.js';
import { fitModel, predictRows, type Fitted } from '../../models/fitted.js';
import { isOf } from '../../models/contract/state.js';
import { machineForm, type Decision } from '../../models/vector-machine/machine-form.js';
import { targetOf } from '../../models/prepared/target.js';
import { modelFromSettings } from '../../models/settings.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { columnsFor } from './columns.js';
import { writeOnnx } from './onnx/write-onnx.js';
import { writePmml } from './pmml/write-pmml.js';
import { readModel } from './read-model.js';

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

/** What is predicted: a class of two, a number, or a class of four. */
const TASKS = { survived: 'binary', honey: 'regression', hive: 'multiclass' } as const;

const fitted = (name: string, settings: readonly string[], target: keyof typeof TASKS) => {
  const task = TASKS[target];
  const made = targetOf(table, { target, task, positive: task === 'binary' ? 'yes' : null });
  return fitModel({
    table,
    model: modelFromSettings(name, settings, 'set'),
    task,
    targetName: target,
    target: made,
    features: target === 'hive' ? ['mites'] : ['mites', 'hive'],
    // Every 13th colony has no hive.
    rows: indices(table.rowCount).filter((row) => target !== 'hive' || row % 13 !== 0),
    group: null,
    weights: null,
    seed: 1,
  });
};

/** A saved model read again predicts what it predicted before, missing and unseen values too. */
async function predictsTheSame(
  model: Fitted,
  bytes: Uint8Array,
  file: string,
  digits: number,
): Promise<void> {
  const read = readModel(bytes, file, { columns: [] });
  for (const rows of [table, fresh]) {
    const columns = rows.columns.map(({ name }) => name);
    const { values, probabilities, problems } = await read.predict(rows, columnsFor(read.inputs, columns));
    expect(problems).toEqual([]);
    const own = predictRows(model, rows, indices(rows.rowCount));
    if (model.labels.length === 0) {
      own[0]?.forEach((value, row) => expect(values[row]).toBeCloseTo(value, digits));
      continue;
    }
    expect(probabilities?.labels).toEqual(model.labels);
    chancesOf(own, model.positive).forEach((shares, label) =>
      shares.forEach((share, row) => expect(probabilities?.values[label]?.[row]).toBeCloseTo(share, digits)),
    );
    const surest = likeliest(chancesOf(own, model.positive), model.positive);
    // Of equal shares both formats take the first label, but for the labels that a tree in PMML names itself.
    const namesLabels = read.format === 'pmml' && model.state.form === 'tree';
    surest.forEach((label, row) => {
      const isTie = !namesLabels && own[0]?.[row] === own[1]?.[row];
      if (!isTie) expect(values[row]).toBe(model.labels[label]);
    });
  }
}

const NO_DATES = new Set<string>();

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
    ['nearest', ['neighbours=7'], 'survived'],
    ['nearest', ['neighbours=6'], 'honey'],
    ['nearest', ['neighbours=5', 'weights=distance'], 'survived'],
    ['nearest', ['neighbours=4', 'weights=distance'], 'honey'],
    ['forest', ['trees=12'], 'survived'],
    ['forest', ['trees=12', 'depth=5'], 'honey'],
    ['boosting', ['rounds=15', 'leaves=6'], 'survived'],
    ['boosting', ['rounds=15', 'leaves=6'], 'honey'],
    ['forest', ['trees=6', 'depth=4'], 'hive'],
    ['boosting', ['rounds=8', 'leaves=4'], 'hive'],
    ['network', ['layers=6,4', 'epochs=30'], 'survived'],
    ['network', ['layers=5', 'epochs=30', 'activation=tanh'], 'honey'],
    ['network', ['layers=5', 'epochs=30'], 'hive'],
    ['vector-machine', [], 'survived'],
    ['vector-machine', ['kernel=linear'], 'survived'],
    ['vector-machine', [], 'honey'],
    ['vector-machine', ['kernel=polynomial'], 'honey'],
    ['vector-machine', ['kernel=linear'], 'hive'],
    ['combination', ['members=logistic; vector-machine'], 'survived'],
    ['bagging', ['models=6', 'model=tree depth=4'], 'survived'],
    ['combination', ['members=logistic; tree depth=3; forest trees=5'], 'survived'],
    ['combination', ['members=linear; tree depth=3; nearest', 'by=vote'], 'honey'],
    ['combination', ['members=logistic; tree depth=3; class-shares', 'by=stack'], 'survived'],
  ] as const)('%s %j of %s predicts the same', async (name, settings, target) => {
    const model = fitted(name, settings, target);
    await predictsTheSame(model, bytesOf(writePmml(model, NO_DATES)), 'model.pmml', 10);
  });

  it.each([
    ['naive-bayes', ['kind=kernel'], 'survived', 'Naive Bayes of the kind kernel'],
    ['linear', [], 'survived', 'A line for classes'],
    ['combination', ['members=linear; tree'], 'survived', 'A line for classes'],
    ['forest', ['trees=1500'], 'survived', 'more than the 60,000 that a PMML file takes'],
  ] as const)('%s %j is refused, since there is no element for it', (name, settings, target, message) => {
    expect(() => writePmml(fitted(name, settings, target), NO_DATES)).toThrow(message);
  });

  it('is refused where the support vectors of a machine would make too large a file', () => {
    const model = fitted('vector-machine', [], 'honey');
    if (!isOf(machineForm, model.state)) throw new Error('another form');
    const [decision] = model.state.decisions;
    const large = { ...at([decision], 0), vectors: new Int32Array(600_000) } as Decision;
    const state = { ...model.state, decisions: [large] };
    expect(() => writePmml({ ...model, state }, NO_DATES)).toThrow('more than the 2,000,000');
  });
});

describe('a fitted model that is written as ONNX', () => {
  it.each([
    ['linear', [], 'honey', 10],
    ['lasso', ['penalty=0.2'], 'honey', 10],
    ['logistic', [], 'survived', 10],
    ['tree', ['depth=4', 'criterion=gini'], 'survived', 6],
    // The runtime gives the numbers of trees as floats.
    ['tree', ['depth=5'], 'honey', 4],
    ['forest', ['trees=12', 'depth=5'], 'survived', 6],
    ['forest', ['trees=12', 'depth=5'], 'honey', 4],
    ['boosting', ['rounds=15', 'leaves=6'], 'survived', 6],
    ['boosting', ['rounds=15', 'leaves=6'], 'honey', 4],
    ['network', ['layers=6,4', 'epochs=30'], 'survived', 10],
    ['network', ['layers=5', 'epochs=30', 'activation=tanh'], 'honey', 10],
    ['network', ['layers=5', 'epochs=30'], 'hive', 8],
    ['vector-machine', [], 'survived', 9],
    ['vector-machine', ['kernel=polynomial'], 'honey', 8],
    ['vector-machine', ['kernel=linear'], 'hive', 9],
    ['forest', ['trees=6', 'depth=4'], 'hive', 6],
    ['boosting', ['rounds=8', 'leaves=4'], 'hive', 6],
  ] as const)('%s %j of %s predicts the same', async (name, settings, target, digits) => {
    const model = fitted(name, settings, target);
    await predictsTheSame(model, writeOnnx(model, NO_DATES), 'model.onnx', digits);
  });

  it.each([
    ['nearest', [], 'survived', 'nearest neighbours'],
    ['naive-bayes', [], 'survived', 'naive Bayes'],
    ['mean', [], 'honey', 'A model of the mean'],
    ['linear', [], 'survived', 'A line for classes'],
    ['tree', ['branches=each', 'depth=5'], 'survived', 'a branch for each level'],
    ['tree', ['missing=stop'], 'survived', 'stop'],
    ['combination', [], 'survived', 'A model of several models combined'],
  ] as const)('%s %j is refused', (name, settings, target, message) => {
    expect(() => writeOnnx(fitted(name, settings, target), NO_DATES)).toThrow(message);
  });
});

it('a model of dates is refused by both', () => {
  for (const write of [writePmml, writeOnnx])
    expect(() => write(fitted('linear', [], 'honey'), new Set(['mites']))).toThrow('mites holds dates');
});
