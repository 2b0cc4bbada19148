import { describe, expect, it } from '@jest/globals';
import { testFile } from '../../../test/files.js';
import { fit } from '../../../test/models.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { at } from '../../foundation/numbers.js';
import { columnNamed, isCoded, type Table } from '../../data/table/table.js';

interface Certified {
  estimate: number[];
  se: number[];
  rest: number;
}

const { cases } = JSON.parse(new TextDecoder().decode(testFile('reference/nist/certified.json'))) as {
  cases: Record<string, Certified>;
};

const read = (path: string): Table => readCsv(testFile(path), { file: 'data.csv' }).table;

/** y and the powers of x. */
function polynomial(name: string, degree: number): Table {
  const table = read(`reference/nist/${name}.csv`);
  const x = columnNamed(table, 'x');
  const values = isCoded(x) ? new Float64Array() : x.values;
  return {
    rowCount: table.rowCount,
    columns: [
      columnNamed(table, 'y'),
      ...Array.from({ length: degree }, (_, d) => ({
        kind: 'number' as const,
        name: `x${d + 1}`,
        values: values.map((value) => value ** (d + 1)),
      })),
    ],
  };
}

/** Significant digits on which a value and a certified one agree. */
const digits = (value: number | null | undefined, certified: number): number =>
  -Math.log10(Math.max(1e-16, Math.abs((value ?? NaN) / certified - 1)));

describe('certified regressions (NIST StRD; sources in test/reference/nist)', () => {
  it.each([
    ['norris', () => polynomial('norris', 1), 'y', 11],
    ['pontius', () => polynomial('pontius', 2), 'y', 11],
    ['longley', () => read('reference/ols-longley/data.csv'), 'TOTEMP', 10],
    // The powers of x up to the tenth are so nearly collinear that numbers of 53 bits lose half their digits.
    ['filip', () => polynomial('filip', 10), 'y', 7],
  ] as const)('%s: estimates, standard errors, residual sum of squares', (name, table, target, least) => {
    const certified = cases[name];
    const { description } = fit(table(), target, 'regression', 'linear');
    const own = description.coefficients ?? [];
    const figures = description.figures ?? {};
    const rest = (figures['sigma'] ?? NaN) ** 2 * (figures['degrees_of_freedom'] ?? NaN);
    const found = [
      ...(certified?.estimate ?? []).map((value, i) => digits(at(own, i).estimate, value)),
      ...(certified?.se ?? []).map((value, i) => digits(at(own, i).se, value)),
      digits(rest, certified?.rest ?? NaN),
    ];
    expect(own).toHaveLength(certified?.estimate.length ?? 0);
    expect(Math.min(...found)).toBeGreaterThan(least);
  });
});
