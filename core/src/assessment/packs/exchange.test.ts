import { describe, expect, it } from '@jest/globals';
import { asked, begun, fileOf } from '../../../test/asked.js';
import { markAnswer } from '../disclosure/result.js';
import { PUBLIC_SECRET } from '../../foundation/random/secret.js';
import { readExercise, readKeys, writeExercise, writeKeys } from './exchange.js';

describe('keys as a file', () => {
  const secret = PUBLIC_SECRET;
  const question = begun('predictions');
  const { key, rules, about, example, hand } = asked(question);

  it('are read as they were written, arrays of numbers by their kinds', () => {
    const text = writeKeys({ secret, keys: { q1: { key, about } } });
    expect(readKeys(text, 'k.json')).toEqual({ version: 2, secret, keys: { q1: { key, about } } });
    expect(text).toContain('"int32":[');
    const gaps = {
      strata: null,
      groups: null,
      time: { column: 't', values: Float64Array.of(NaN, 2) },
      twins: Int32Array.of(0, 1),
      truth: null,
      references: [],
    };
    expect(
      readKeys(writeKeys({ secret, keys: { s: { key: gaps, about: [] } } }), 'k.json').keys['s']?.key,
    ).toEqual(gaps);
  });

  it('mark as the keys did that they were made of', () => {
    const file = readKeys(writeKeys({ secret, keys: { q1: { key, about } } }), 'k.json');
    const read = readExercise(writeExercise({ title: 'x', questions: [question], released: [] }), 'e.json');
    const answer = { file: fileOf(example ?? ''), fields: {} };
    const [again] = read.questions;
    if (!again) throw new Error('no question');
    const who = { secret: file.secret, question: 'q1', id: 'somebody' };
    const marked = markAnswer(again, answer, rules, file.keys['q1']?.key ?? key, {
      who,
      stepped: false,
      before: null,
    });
    expect(marked).toEqual(hand(answer));
  });

  it.each([
    ['{', 'k.json is not JSON.'],
    ['{"version":1,"seed":1,"keys":{}}', 'k.json is of version 1, not 2.'],
    ['[]', 'k.json is of version null, not 2.'],
    ['{"version":2}', 'k.json holds no keys.'],
    ['{"version":2,"secret":{"bytes":{"uint8":[1]}},"keys":null}', 'k.json holds no keys.'],
    ['{"version":2,"secret":{"bytes":{"uint8":[1]}},"keys":{"q1":7}}', 'k.json holds no keys.'],
    ['{"version":2,"keys":{}}', 'k.json holds no keys.'],
  ])('%s are refused', (text, words) => {
    expect(() => readKeys(text, 'k.json')).toThrow(words);
  });

  it('that is named an exercise and is of another form is refused', () => {
    for (const rest of ['"questions":5,"released":[]', '"questions":[1],"released":[]', '"questions":[]'])
      expect(() => readExercise(`{"version":1,${rest}}`, 'e.json')).toThrow('no exercise that was released');
  });

  it('are no exercise', () => {
    expect(() => readExercise('{"version":1,"keys":{}}', 'e.json')).toThrow(
      'e.json is no exercise that was released',
    );
  });
});
