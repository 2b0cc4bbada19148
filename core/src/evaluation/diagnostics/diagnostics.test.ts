import { describe, expect, it } from '@jest/globals';
import { distance, fit, modelCase, type ModelCase } from '../../../test/models.js';
import { predictRows } from '../../models/fitted.js';
import { at, indices } from '../../foundation/numbers.js';
import { columnNamed, isCoded } from '../../data/table/table.js';
import { diagnoseResiduals } from './diagnose.js';
import { influence } from './influence.js';
import { normalPlot } from './normal-plot.js';
import { residualsSay } from './says.js';
import { seededRandom } from '../../foundation/random/random.js';
import { varianceInflation } from './vif.js';

interface Expected {
  features: string[];
  vif: number[];
  breusch_pagan: { lm: number; p: number };
  durbin_watson: number;
  jarque_bera: { statistic: number; p: number; skewness: number; kurtosis: number };
  acf: number[];
  leverage: number[];
  cooks: number[];
}

const { table, expected, tolerance } = modelCase('diagnose') as ModelCase<Expected>;
const valuesOf = (name: string): Float64Array => {
  const column = columnNamed(table, name);
  return isCoded(column) ? new Float64Array() : column.values;
};
const columns = expected.features.map(valuesOf);
const y = valuesOf('target');
const near = (value: number | null | undefined, should: number) =>
  expect(distance(value, should)).toBeLessThan(tolerance);

describe('diagnostics of a linear regression (statsmodels; test/reference/diagnose)', () => {
  const fitted = fit(table, 'target', 'regression', 'linear');
  const predicted = at(predictRows(fitted, table, indices(table.rowCount)), 0);
  const found = diagnoseResiduals(
    y.map((value, i) => value - at(predicted, i)),
    columns,
  );

  it('variance inflation', () => {
    varianceInflation(columns).forEach((vif, c) => near(vif, at(expected.vif, c)));
  });

  it('Breusch–Pagan, Durbin–Watson, Jarque–Bera, autocorrelation', () => {
    near(found.breuschPagan?.lm, expected.breusch_pagan.lm);
    near(found.breuschPagan?.p, expected.breusch_pagan.p);
    near(found.durbinWatson, expected.durbin_watson);
    for (const key of ['statistic', 'p', 'skewness', 'kurtosis'] as const)
      near(found.jarqueBera?.[key], expected.jarque_bera[key]);
    expected.acf.forEach((value, lag) => near(found.autocorrelation?.values[lag], value));
    near(found.autocorrelation?.band, 1.96 / Math.sqrt(y.length));
  });

  it('leverage and Cook’s distance', () => {
    const { leverage, cooks } = influence(columns, y);
    expected.leverage.forEach((value, i) => near(leverage[i], value));
    expected.cooks.forEach((value, i) => near(cooks[i], value));
    // The hat matrix has as many ones as there are coefficients.
    near(
      leverage.reduce((a, b) => a + b, 0),
      columns.length + 1,
    );
  });

  it('residuals of a fit with an intercept have mean 0, and their histogram holds every row', () => {
    expect(Math.abs(found.mean)).toBeLessThan(1e-9);
    expect(found.histogram.reduce((sum, { rows }) => sum + rows, 0)).toBe(table.rowCount);
  });
});

describe('what cannot be judged', () => {
  it('is null: residuals that do not vary, a column that others make up', () => {
    const flat = diagnoseResiduals(new Float64Array(5), [Float64Array.of(1, 2, 3, 4, 5)]);
    expect(flat).toMatchObject({
      jarqueBera: null,
      breuschPagan: null,
      durbinWatson: null,
      autocorrelation: null,
      normalPlot: [],
    });
    const x = Float64Array.of(1, 2, 4, 3, 7, 5);
    expect(
      varianceInflation([x, x.map((value) => 2 * value + 1), Float64Array.of(1, 0, 0, 1, 1, 0)]),
    ).toEqual([null, null, expect.closeTo(1.1, 0)]);
  });

  it('the normal plot of normal quantiles is the diagonal (standard normal quartile: 0.6745)', () => {
    const points = normalPlot(Float64Array.of(-1.5, -0.5, 0.5, 1.5));
    expect(points.map(({ share }) => share)).toEqual([0.125, 0.375, 0.625, 0.875]);
    expect(points[2]?.quantile).toBeCloseTo(0.3186, 4);
    expect(normalPlot(Float64Array.of(0, 1)).at(1)?.quantile).toBeCloseTo(0.6745, 4);
  });
});

describe('a row that decides a coefficient alone', () => {
  it('has leverage 1 and an infinite distance', () => {
    const alone = Float64Array.of(0, 0, 0, 0, 0, 1);
    const { leverage, cooks } = influence([alone], Float64Array.of(1, 2, 3, 2, 1, 9));
    expect(at(leverage, 5)).toBeCloseTo(1, 10);
    expect(at(cooks, 5)).toBe(Infinity);
    expect(at(cooks, 0)).toBeLessThan(1);
  });
});

describe('what residuals show', () => {
  /** Residuals with so strong a correlation of neighbours. */
  const series = (n: number, correlation: number) => {
    const random = seededRandom(3);
    let last = 0;
    return Float64Array.from({ length: n }, () => (last = correlation * last + random.unit() - 0.5));
  };
  const verdict = (residuals: Float64Array, id: string) =>
    residualsSay(diagnoseResiduals(residuals, [])).find((one) => one.id === id)?.outcome;

  it('depends on how many there are: of neighbours, and of the mean', () => {
    expect(verdict(series(2000, 0.3), 'neighbours')).toBe('fails');
    expect(verdict(series(2000, 0), 'neighbours')).toBe('holds');
    expect(verdict(Float64Array.of(1, 2, -1, 1, -2, -1, 2, -1), 'neighbours')).toBe('holds');
    const shifted = (n: number) => Float64Array.from(series(n, 0), (value) => value + 0.05);
    expect(verdict(shifted(2000), 'mean')).toBe('unsure');
    expect(verdict(shifted(15), 'mean')).toBe('holds');
  });
});
