import { describe, expect, it } from '@jest/globals';
import { tableOf, testFile } from '../../../test/files.js';
import { distance, fit } from '../../../test/models.js';
import { at } from '../../foundation/numbers.js';
import type { Fitted } from '../fitted.js';

const read = (name: string) => new TextDecoder().decode(testFile(`reference/logistic-hard/${name}`));
/** R 4.2, glm and step: see hard.R beside the files. */
const expected = JSON.parse(read('hard.json')) as Record<
  'crabs' | 'skewed' | 'near',
  { deviance: number; estimate: number[]; se: number[] }
> & { quasi: { deviance: number }; step: { kept: string[] } };
const table = (name: string) => tableOf(read(`${name}.csv`));

const figures = ({ description }: Fitted) => ({
  deviance: description.figures?.['deviance'] ?? NaN,
  estimates: (description.coefficients ?? []).map(({ estimate }) => estimate),
  errors: (description.coefficients ?? []).map(({ se }) => se),
});

describe('a logistic regression', () => {
  it.each([
    ['of rows with log-odds beyond 36', 'crabs', 1e-6],
    ['of a column with a few large values', 'skewed', 1e-6],
    ['of two columns that nearly make each other up', 'near', 1e-3],
  ] as const)('%s has the deviance, estimates and standard errors of R', (_, name, tolerance) => {
    const fitted = fit(table(name), 'target', 'binary', 'logistic');
    const { deviance, estimates, errors } = figures(fitted);
    expect(fitted.warnings).toEqual([]);
    expect(distance(deviance, expected[name].deviance)).toBeLessThan(1e-8);
    expected[name].estimate.forEach((value, k) =>
      expect(distance(estimates[k], value)).toBeLessThan(tolerance),
    );
    expected[name].se.forEach((value, k) => expect(distance(errors[k], value)).toBeLessThan(tolerance));
  });

  it('of classes that some rows separate predicts at the limit of the deviance, and says that estimates are infinite', () => {
    const fitted = fit(table('quasi'), 'target', 'binary', 'logistic');
    expect(distance(figures(fitted).deviance, expected.quasi.deviance)).toBeLessThan(1e-6);
    expect(figures(fitted).errors.every((se) => se === null)).toBe(true);
    expect(fitted.warnings.join()).toContain('estimates are infinite');
  });

  it('of three classes of which one is separated reaches the deviance of the other two', () => {
    const rows = Array.from({ length: 90 }, (_, i) => {
      const x = (i * 37) % 90;
      const label = x > 70 ? 'c' : (i * 7) % 10 < 2 + x / 12 ? 'b' : 'a';
      return `${x},${label}`;
    });
    const all = fit(tableOf(`x,target\n${rows.join('\n')}\n`), 'target', 'multiclass', 'logistic');
    const two = fit(
      tableOf(`x,target\n${rows.filter((row) => !row.endsWith('c')).join('\n')}\n`),
      'target',
      'binary',
      'logistic',
    );
    expect(all.warnings.join()).toContain('infinite');
    expect(distance(figures(all).deviance, figures(two).deviance)).toBeLessThan(1e-5);
  });

  it('drops a column that equals another on the rows with weight, and names it', () => {
    const rows = Array.from({ length: 60 }, (_, i) => {
      const x = (i * 17) % 40;
      const yes = (i * 7) % 40 < x;
      return `${x},${i % 3 === 0 ? x + 1 : x},${i % 3 === 0 ? 0 : 1},${yes ? 'yes' : 'no'}`;
    });
    const own = tableOf(`x,copy,weight,target\n${rows.join('\n')}\n`);
    const weight = own.columns.find(({ name }) => name === 'weight');
    const fitted = fit(
      own,
      'target',
      'binary',
      'logistic',
      {},
      { features: ['x', 'copy'], weights: weight && 'values' in weight ? weight.values : null },
    );
    expect(fitted.warnings.join()).toContain('copy');
    expect(Math.abs(at(figures(fitted).estimates, 1) ?? 0)).toBeGreaterThan(0.01);
  });
});

describe('backward elimination by Akaike’s criterion', () => {
  it('tries every term, as R’s step does', () => {
    const fitted = fit(
      table('mtcars'),
      'mpg',
      'regression',
      'linear',
      { eliminate: 'aic' },
      {
        features: ['disp', 'hp', 'drat', 'wt', 'qsec', 'am', 'gear', 'carb'],
      },
    );
    const kept = (fitted.description.coefficients ?? []).flatMap(({ term, estimate }) =>
      estimate !== null && term !== '(intercept)' ? [term] : [],
    );
    expect(kept.sort()).toEqual([...expected.step.kept].sort());
  });
});
