import { expect } from '@jest/globals';
import { pmmlText, schemaOf, type Fields } from '../../../../test/pmml.js';

export const close = (values: readonly unknown[], wanted: readonly (number | null)[]) =>
  wanted.forEach((value, i) => {
    if (value === null) expect(values[i]).toBeNull();
    else expect(Number(values[i])).toBeCloseTo(value, 10);
  });

export const NUMBERS: Fields = { x: 'number', y: 'number' };

/** A regression of one field: what the field is for a row is what is predicted. */
export const shows = (
  field: string,
  transformations: string,
  fields: Fields = NUMBERS,
  schema = schemaOf(fields),
) =>
  pmmlText(
    fields,
    `<RegressionModel functionName="regression">${schema}<RegressionTable intercept="0"><NumericPredictor name="${field}" coefficient="1"/></RegressionTable></RegressionModel>`,
    transformations,
  );

export const derived = (body: string, more = 'dataType="double" optype="continuous"') =>
  `<DerivedField name="d" ${more}>${body}</DerivedField>`;
