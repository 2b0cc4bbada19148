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

  it('are none where no mistake is known', () => {
    expect(toldSlips(planOf('split-sizes', ['training rows']), 'q1', 3)).toEqual([]);
  });
});
