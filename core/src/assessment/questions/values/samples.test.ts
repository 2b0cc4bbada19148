import { describe, expect, it } from '@jest/globals';
import { asked, begun, GIVEN, material, SUBJECT } from '../../../../test/asked.js';
import { PUBLIC_SECRET } from '../../../foundation/random/secret.js';
import { columnNamed } from '../../../data/table/table.js';
import { newPlan } from '../../../data/sentence/sentence.js';
import { generatorOf } from '../../generators/registry.js';
import { generatorMaterial } from '../../material/given-tables.js';
import { questionKindOf } from '../registry.js';
import type { ValuesRules } from './question.js';

const mean = { kind: 'column-summary', values: { column: 'weight', rows: 'training', asked: ['mean'] } };
const text = 'What is the mean weight?';
const question = (samples: number, figures: typeof mean | { kind: string; values: object } = mean) =>
  begun('values', { text, figures: figures as typeof mean, samples });
const who = (id: string) => ({ secret: PUBLIC_SECRET, question: 'q1', id });

describe('a key of each student’s own part of the training rows', () => {
  const { sheet, hand, rules, key, about } = asked(question(5));
  /** By hand: the weights of the training file whose number leaves the remainder. */
  const meanOf = (part: number) => {
    const weights = columnNamed(generatorMaterial(material()).table, 'weight');
    const own = weights.kind === 'number' ? [...weights.values].filter((_, row) => row % 5 === part) : [];
    return own.reduce((sum, one) => sum + one, 0) / own.length;
  };
  const partOf = (id: string) =>
    Number(/remainder \*\*(\d)\*\* when divided by 5/.exec(sheet(who(id)).text)?.[1]);

  it('is computed from the rows that the sheet names, and is right for that student alone', () => {
    const ids = Array.from({ length: 40 }, (_, i) => `student ${i}`);
    expect(new Set(ids.map(partOf))).toEqual(new Set([0, 1, 2, 3, 4]));
    for (const id of ids.slice(0, 8)) {
      const [field] = sheet(who(id)).fields;
      const answer = (part: number) =>
        hand({ fields: { [field?.key ?? '']: meanOf(part).toFixed(6) } }, who(id)).marks;
      expect(answer(partOf(id))).toBe(4);
      expect(answer((partOf(id) + 1) % 5)).toBe(0);
      expect(questionKindOf('values').right?.(rules, key, who(id))).toEqual({
        [field?.key ?? '']: { value: expect.closeTo(meanOf(partOf(id)), 9) as unknown },
      });
    }
  });

  it('stands in no rules that students fetch, and staff read it of every part', () => {
    expect((rules as ValuesRules).computed).toBeNull();
    expect((rules as ValuesRules).figures.values).toEqual({});
    for (const part of [0, 1, 2, 3, 4]) {
      expect(JSON.stringify(rules)).not.toContain(String(meanOf(part)).slice(0, 7));
      expect(about[part]).toContain(`part ${part}: mean`);
    }
    expect(questionKindOf('values').isPersonal(rules)).toBe(true);
  });
});

describe('parts that cannot be', () => {
  const refused = (samples: number, message: string, figures?: { kind: string; values: object }) =>
    expect(() => asked(question(samples, figures))).toThrow(message);
  it('too few, too many, too small', () => {
    refused(1, 'Parts are a whole number from 2 to 20.');
    refused(2.5, 'Parts are a whole number from 2 to 20.');
    refused(20, `${GIVEN} training rows make no 20 parts of 10 rows or more.`);
  });
  it('of rows that are not training rows alone, or of what is drawn', () => {
    refused(3, 'choose these rows', { ...mean, values: { ...mean.values, rows: 'both' } });
    refused(3, 'Only what is computed from the training rows', {
      kind: 'confusion',
      values: newPlan(generatorOf({ kind: 'confusion' }), SUBJECT.columns).values,
    });
  });
  it('with a figure that one of them does not have', () => {
    // Five rows of an apiary cannot be in all of nine parts.
    refused(9, 'of 9: No row of the training rows has “a0” in apiary.', {
      kind: 'target-by-value',
      values: {
        ...newPlan(generatorOf({ kind: 'target-by-value' }), SUBJECT.columns).values,
        ...{ column: 'apiary', value: 'a0', rows: 'training' },
      },
    });
  });
});
