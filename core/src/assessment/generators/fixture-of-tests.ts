import { seedsOf } from '../../../test/secrets.js';
import { asksNames, type Asked, type AskedNumber } from './generator.js';
import type { Respondent } from './respondent.js';
import { newPlan } from '../../data/sentence/sentence.js';
import { GENERATORS, generatorOf } from './registry.js';

/** A plan that asks for every figure of a kind. */
export const everything = (key: string) => {
  const kind = generatorOf({ kind: key });
  const plan = newPlan(kind, []);
  const { asked } = kind.parameters;
  return asked?.type === 'several' ? { ...plan, values: { ...plan.values, asked: asked.choices } } : plan;
};

/** What is asked for, where all of it is numbers. */
export const numbersIn = (asked: readonly Asked[]): AskedNumber[] =>
  asked.map((one) => {
    if (asksNames(one)) throw new Error(`${one.name} is no number`);
    return one;
  });

export const byChance = GENERATORS.filter(({ from }) => from === 'chance');

/** The fixture was made when variants followed from a seed. */
export const by = (id: string): Respondent => ({ secret: seedsOf(20261126), question: 'q1', id });
