import { describe, expect, it } from '@jest/globals';
import { PART_NAMES, SPLITTERS } from '@modest-sieve/core/splitting';
import { balanced } from './shares.js';
import { planIn, samePlan, turnedInto } from './use-plan.js';

const draw = (values: Record<string, number | string>) => ({
  kind: 'draw',
  values: { training: 70, validation: 10, heldout: 20, ...values },
});

describe('a share that is changed', () => {
  it('is made up for by training, or by held-out rows when training itself changes', () => {
    expect(balanced(draw({ heldout: 30 }), 'heldout').values).toMatchObject({ training: 60, heldout: 30 });
    expect(balanced(draw({ validation: 0 }), 'validation').values).toMatchObject({
      training: 80,
      validation: 0,
    });
    expect(balanced(draw({ training: 80 }), 'training').values).toMatchObject({ training: 80, heldout: 10 });
  });

  it('leaves all of them together at 100 %', () => {
    for (const part of PART_NAMES) {
      for (let value = 1; value <= 30; value++) {
        const { values } = balanced(draw({ [part]: value }), part);
        expect(PART_NAMES.reduce((sum, name) => sum + Number(values[name]), 0)).toBe(100);
      }
    }
  });

  it('leaves alone what is no share', () => {
    const plan = draw({ seed: 3 });
    expect(balanced(plan, 'seed')).toBe(plan);
    const every = { kind: 'every', values: { every: 4 } };
    expect(balanced(every, 'training')).toBe(every);
  });
});

describe('a plan in an address', () => {
  it('is read back, and anything else is none', () => {
    const plan = draw({ seed: 3 });
    expect(planIn(JSON.stringify(plan), SPLITTERS)).toEqual(plan);
    for (const text of ['', '{', '3', '{"kind":"draw"}', '{"kind":"nothing","values":{}}', 'null'])
      expect(planIn(text, SPLITTERS)).toBeNull();
  });

  it('is the same as another whatever does not count holds', () => {
    const sized = { sized: 'percent', stratify: '', group: '', seed: 1 };
    expect(samePlan(SPLITTERS, draw({ ...sized, heldoutRows: 5 }), draw(sized))).toBe(true);
    expect(samePlan(SPLITTERS, draw({ ...sized, seed: 2 }), draw(sized))).toBe(false);
  });

  it('keeps what both kinds have when it turns into another', () => {
    const begun = { kind: 'time', values: { training: 80, validation: 0, heldout: 20, time: 'day', gap: 0 } };
    expect(turnedInto(begun, draw({ time: 5 })).values).toEqual({
      training: 70,
      validation: 10,
      heldout: 20,
      time: 'day',
      gap: 0,
    });
  });
});
