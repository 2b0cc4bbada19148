import { describe, expect, it } from '@jest/globals';
import type { Answer } from '../questions/contract/answer.js';
import type { ValuesRules } from '../questions/values/question.js';
import type { CurveRules } from '../questions/curve/question.js';
import type { FoldsRules } from '../questions/folds/question.js';
import type { SplitRules } from '../questions/split/question.js';
import type { PredictionsRules } from '../questions/predictions/question.js';
import { firstScheme } from '../marking/scheme.js';
import { metricNamed } from '../../metrics/registry.js';
import { compareAnswers } from './compare.js';

const file = (text: string, fields: Record<string, string> = {}): Answer => ({
  file: { name: 'answer.csv', bytes: new TextEncoder().encode(text) },
  fields,
});
const identifiers = ['a', 'b', 'c'];
const predicted: PredictionsRules = {
  identifier: 'hive',
  identifiers,
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  needs: 'labels',
  metric: 'accuracy',
  scheme: firstScheme(metricNamed('accuracy'), 1),
};
const split: SplitRules = { identifier: 'hive', identifiers, parts: ['training', 'test'], says: '' };
const folds: FoldsRules = {
  identifier: 'hive',
  identifiers,
  k: 3,
  predictions: null,
  metric: null,
  says: '',
};
const curve: CurveRules = { setting: 'depth', settings: ['1', '2'], needsErrors: false, says: '' };
const chosen = { chosen: '1', simplest: 'under', complex: 'over' };

describe('two answers of one student', () => {
  it('differ where a row is predicted otherwise, in whatever order the files have their rows', () => {
    const before = file('hive,prediction\na,yes\nb,no\nc,no\n');
    const after = file('hive,prediction\nc,yes\nb,no\na,yes\n');
    expect(compareAnswers('predictions', predicted, before, after)).toEqual({
      of: 3,
      changed: 1,
      examples: [{ name: 'c', before: 'no', after: 'yes' }],
    });
    expect(compareAnswers('predictions', predicted, before, before)?.changed).toBe(0);
  });

  it('differ by probabilities that give the same label, and by numbers', () => {
    const rules: PredictionsRules = { ...predicted, needs: 'probabilities' };
    const shares = (b: number) => file(`hive,probability\na,0.9\nb,${b}\nc,0.1\n`);
    expect(compareAnswers('predictions', rules, shares(0.6), shares(0.7))?.examples).toEqual([
      { name: 'b', before: 'no 0.4, yes 0.6', after: 'no 0.3, yes 0.7' },
    ]);
    const numbers: PredictionsRules = { ...predicted, needs: 'numbers', task: 'regression', labels: [] };
    const kilograms = (c: number) => file(`hive,prediction\na,1\nb,2\nc,${c}\n`);
    expect(compareAnswers('predictions', numbers, kilograms(3), kilograms(4.5))?.examples).toEqual([
      { name: 'c', before: '3', after: '4.5' },
    ]);
  });

  it('differ by the part, the fold and the figures', () => {
    const parts = (c: string) => file(`hive,part\na,training\nb,training\nc,${c}\n`);
    expect(compareAnswers('split', split, parts('test'), parts('training'))).toMatchObject({
      changed: 1,
      examples: [{ name: 'c', before: 'test', after: 'training' }],
    });
    const dealt = (c: number) => file(`hive,fold\na,1\nb,2\nc,${c}\n`);
    expect(compareAnswers('folds', folds, dealt(3), dealt(1))?.examples).toEqual([
      { name: 'c', before: 'fold 3', after: 'fold 1' },
    ]);
    const errors = (two: number) => file(`depth,training,validation\n1,0.3,0.4\n2,0.1,${two}\n`, chosen);
    expect(compareAnswers('curve', curve, errors(0.5), errors(0.45))?.examples).toEqual([
      { name: '2', before: 'training 0.1, validation 0.5', after: 'training 0.1, validation 0.45' },
    ]);
  });

  it('show five lines of those that differ, and count them all', () => {
    const many = Array.from({ length: 40 }, (_, i) => `h${i}`);
    const rules: PredictionsRules = { ...predicted, identifiers: many };
    const all = (label: string) =>
      file(`hive,prediction\n${many.map((id) => `${id},${label}`).join('\n')}\n`);
    const found = compareAnswers('predictions', rules, all('no'), all('yes'));
    expect([found?.changed, found?.of, found?.examples.length]).toEqual([40, 40, 5]);
  });

  it('are not compared where one cannot be read, or where fields are the answer', () => {
    expect(compareAnswers('predictions', predicted, file('hive\na\n'), file(''))).toBeNull();
    const values: ValuesRules = {
      figures: { kind: 'confusion', values: {} },
      computed: { given: {}, table: null, asked: [{ key: 'p', name: 'precision' }] },
      says: '',
    };
    const typed: Answer = { file: null, fields: { p: '0.5' } };
    expect(compareAnswers('values', values, typed, typed)).toBeNull();
  });
});
