import { describe, expect, it } from '@jest/globals';
import { newPlan } from '../../../data/sentence/sentence.js';
import { generatorOf } from '../../generators/registry.js';
import { toldSlips } from './told-slips.js';

const planOf = (kind: string, asked: readonly string[]) => {
  const plan = newPlan(generatorOf({ kind }), []);
  return { ...plan, values: { ...plan.values, asked } };
};

describe('the mistakes that a question can tell', () => {
  const told = (decimals: number) =>
    new Map(toldSlips(planOf('confusion', ['precision']), 'q1', decimals).map((one) => [one.title, one]));

  it('are nearly all of them at four decimals, and hardly any at one', () => {
    const fine = [...told(4).values()];
    const coarse = [...told(1).values()].filter(({ title }) => title !== 'percent for a fraction');
    const mean = (of: typeof fine) => of.reduce((sum, { share }) => sum + share, 0) / of.length;
    expect(mean(fine)).toBeGreaterThan(0.9);
    expect(mean(coarse)).toBeLessThan(0.2);
  });

  it('are said with those that give the same number always', () => {
    expect(told(4).get('precision and recall exchanged')?.beside).toContain('matrix transposed');
    expect(told(4).get('negative predictive value for precision')?.beside).toContain(
      'the other class as positive',
    );
  });

  it('are told by what is right beside them, where a figure has few values', () => {
    const asked = ['best depth', 'simplest depth within one standard error'];
    const of = (wanted: readonly string[]) => toldSlips(planOf('settings-table', wanted), 'q1', 0);
    const title = 'the best setting for the one-standard-error choice';
    expect(of(asked).find((one) => one.title === title)?.share).toBe(1);
    expect(of(asked.slice(1)).find((one) => one.title === title)?.share ?? 0).toBeLessThan(0.1);
  });

  it('are none where no mistake is known', () => {
    expect(toldSlips(planOf('split-sizes', ['training rows']), 'q1', 3)).toEqual([]);
  });
});
