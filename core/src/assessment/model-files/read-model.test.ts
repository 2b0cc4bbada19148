import { describe, expect, it } from '@jest/globals';
import { bytesOf, iris } from '../../../test/files.js';
import { fitModel, writeFitted } from '../../models/fitted.js';
import { modelFromSettings } from '../../models/settings.js';
import { targetOf } from '../../models/prepared/target.js';
import { indices } from '../../foundation/numbers.js';
import { columnsFor, proposedColumns } from './columns.js';
import { readModel } from './read-model.js';

const inputs = (...names: string[]) =>
  names.map((name) => ({ name, takes: 'numbers' as const, values: null }));

describe('columns for inputs', () => {
  it('are proposed by name, by name without signs and case, and by position only where no name fits', () => {
    expect(proposedColumns(inputs('age', 'Hive Type'), ['hive_type', 'age'])).toEqual(['age', 'hive_type']);
    expect(proposedColumns(inputs('X[1]', 'X[2]'), ['b', 'a'])).toEqual(['b', 'a']);
    expect(proposedColumns(inputs('age', 'X[2]'), ['b', 'age'])).toEqual(['age', null]);
    expect(proposedColumns(inputs('a b'), ['a_b', 'A B', 'c'])).toEqual([null]);
  });

  it('that are missing are named', () => {
    expect(() => columnsFor(inputs('age', 'height', 'mass'), ['age'])).toThrow(
      'The data have no column for “height”, “mass”.',
    );
    expect(() => columnsFor(inputs('X[1]', 'X[2]'), ['age'])).toThrow('takes 2 columns by position');
  });
});

describe('a model that this program saved', () => {
  it('predicts as it did when it was fitted', async () => {
    const table = iris();
    const target = targetOf(table, { target: 'target', task: 'multiclass', positive: null });
    const features = table.columns.map(({ name }) => name).filter((name) => name !== 'target');
    const fitted = fitModel({
      table,
      model: modelFromSettings('tree', ['depth=3'], 'set'),
      task: 'multiclass',
      targetName: 'target',
      target,
      features,
      rows: indices(table.rowCount),
      group: null,
      weights: null,
      seed: 1,
    });
    const model = readModel(bytesOf(writeFitted(fitted)), 'tree.json', { columns: features });
    const { values, probabilities } = await model.predict(table, columnsFor(model.inputs, features));
    const truth = table.columns.find(({ name }) => name === 'target');
    if (truth?.kind !== 'category') throw new Error('target is a category');
    const right = values.filter((value, row) => value === truth.levels[truth.codes[row] ?? -1]).length;
    expect(right).toBeGreaterThan(140);
    expect(probabilities?.labels).toEqual(['setosa', 'versicolor', 'virginica']);
  });

  it.each([
    ['{', 'not JSON'],
    ['{}', 'no version'],
    ['{"version":99}', 'version 99'],
  ])('is refused where it is none: %s', (text, message) => {
    expect(() => readModel(bytesOf(text), 'model.json', { columns: [] })).toThrow(message);
  });
});

it('a file of another ending is refused with those that are read', () => {
  expect(() => readModel(bytesOf('x'), 'model.pkl', { columns: [] })).toThrow(
    'model.pkl ends in none of .onnx, .pmml, .xml, .csv, .tsv, .txt, .json',
  );
});
