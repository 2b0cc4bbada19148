import { describe, expect, it } from '@jest/globals';
import { readdirSync } from 'node:fs';
import { testFile } from '../../../test/files.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { at } from '../../foundation/numbers.js';
import { columnsFor } from './columns.js';
import { readModel } from './read-model.js';

interface Expected {
  source: string;
  tolerance: number;
  link?: 'identity' | 'logit' | 'log';
  positive?: string;
  negative?: string;
  labels?: string[];
  expected: { prediction: (number | string)[]; p?: Record<string, number[]> };
}

const FOLDER = new URL('../../../test/models/', import.meta.url);
const cases = readdirSync(FOLDER, { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map(({ name }) => name);

/** Predictions of scikit-learn 1.2.1 for models that it fitted: `make_models.py` and `more_models.py` of core/test/models. */
describe('a model file predicts as the library that fitted it', () => {
  it.each(cases)('%s', async (name) => {
    const file = at(
      readdirSync(new URL(`${name}/`, FOLDER)).filter((one) => one.startsWith('model.')),
      0,
    );
    const { expected, tolerance, link, positive, labels, ...more } = JSON.parse(
      new TextDecoder().decode(testFile(`models/${name}/expected.json`)),
    ) as Expected;
    const { table } = readCsv(testFile(`models/${name}/data.csv`), { file: 'data.csv' });
    const columns = table.columns.map((column) => column.name).filter((column) => column !== 'id');
    const negative = more.negative ?? Object.keys(expected.p ?? {}).find((label) => label !== positive);
    const model = readModel(testFile(`models/${name}/${file}`), file, {
      columns,
      ...(link === undefined ? {} : { link }),
      ...(labels === undefined ? {} : { labels }),
      ...(positive === undefined ? {} : { positive }),
      ...(negative === undefined || positive === undefined ? {} : { negative }),
    });
    const { values, probabilities, problems } = await model.predict(table, columnsFor(model.inputs, columns));
    expect(problems).toEqual([]);
    expect(values).toHaveLength(expected.prediction.length);
    const isNear = (value: number, wanted: number) =>
      Math.abs(value - wanted) <= tolerance * Math.max(1, Math.abs(wanted));
    expected.prediction.forEach((wanted, row) => {
      const value = values[row];
      if (typeof wanted === 'string') expect(value).toBe(wanted);
      else expect([value, isNear(Number(value), wanted)]).toEqual([value, true]);
    });
    for (const [label, wanted] of Object.entries(expected.p ?? {})) {
      const own = probabilities?.values[probabilities.labels.indexOf(label)] ?? new Float64Array();
      expect(own).toHaveLength(wanted.length);
      wanted.forEach((share, row) =>
        expect([row, own[row], isNear(own[row] ?? NaN, share)]).toEqual([row, own[row], true]),
      );
    }
  });
});
