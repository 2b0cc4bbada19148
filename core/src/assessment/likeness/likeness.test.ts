import { describe, expect, it } from '@jest/globals';
import { secretOf } from '../../../test/secrets.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { newPlan } from '../../data/sentence/sentence.js';
import { seededRandom } from '../../foundation/random/random.js';
import { generatorOf } from '../generators/registry.js';
import { toleranceKindOf } from '../generators/tolerance.js';
import { keyOf } from '../questions/values/values.js';
import type { ValuesQuestion } from '../questions/values/question.js';
import { likenessOf, type AnswerOf } from './likeness.js';
import { nearlySameFiles } from './nearly-same-files.js';

const secret = secretOf(1);
const STUDENTS = 10;

/** A question whose numbers are drawn, and what each student's right answer is. */
function drawn(kind: string) {
  const figures = newPlan(generatorOf({ kind }), []);
  const question: ValuesQuestion = {
    ...{ id: 'q1', kind: 'values', title: '', text: '', marks: 2, figures },
    tolerance: newPlan(toleranceKindOf({ kind: 'digits' }), []),
  };
  const rules = { figures, computed: null, says: '' };
  const key = { computed: null };
  const right = (student: string): Record<string, string> =>
    Object.fromEntries(
      keyOf(figures, key, { secret, question: 'q1', id: student }).asked.flatMap((one) =>
        'figure' in one ? [[one.key, (one.figure.value ?? NaN).toFixed(4)]] : [],
      ),
    );
  const likeness = (fields: (student: string, i: number) => Record<string, string>) => {
    const answers = Array.from({ length: STUDENTS }, (_, i): AnswerOf => {
      const student = `student ${i}`;
      return { answer: `answer ${i}`, student, fields: fields(student, i), file: null };
    });
    return likenessOf(question, { rules, key, secret }, answers, null).typed;
  };
  return { right, likeness };
}

describe('numbers that are right for another student', () => {
  const { right, likeness } = drawn('confusion');

  it('are found, with whose they are', () => {
    const passedOn = likeness((student, i) => right(i === 3 ? 'student 7' : student));
    expect(passedOn).toEqual({
      compared: 1,
      tooCommon: 0,
      found: [{ answer: 'answer 3', student: 'student 3', other: 'student 7' }],
    });
  });

  it('are none where everybody works alone, right or wrong', () => {
    const random = seededRandom(3);
    const alone = likeness((student, i) =>
      i % 2 === 0
        ? right(student)
        : Object.fromEntries(Object.keys(right(student)).map((key) => [key, random.unit().toFixed(3)])),
    );
    expect(alone).toMatchObject({ compared: 5, found: [] });
  });

  it('are not found from what many numbers fit, which is said', () => {
    const coarse = drawn('split-sizes');
    const passedOn = coarse.likeness((student, i) => coarse.right(i === 3 ? 'student 7' : student));
    expect(passedOn).toEqual({ compared: 1, tooCommon: 1, found: [] });
  });
});

describe('files that are the same but for a few rows', () => {
  const random = seededRandom(5);
  const values = Float64Array.from({ length: 100 }, () => random.unit());
  const other = Float64Array.from({ length: 100 }, () => random.unit());
  const changed = (rows: readonly number[], to: (value: number) => number) =>
    values.map((value, row) => (rows.includes(row) ? to(value) : value));
  const known = () => false;
  const pairs = (copy: Float64Array, unknown: (row: number) => boolean = known, first = values) =>
    nearlySameFiles(
      [
        { answer: 'a', student: 's', values: first },
        { answer: 'b', student: 't', values: other },
        { answer: 'c', student: 'u', values: copy },
      ],
      unknown,
    );
  const flipped = changed([3, 30, 60], (value) => (value + 0.5) % 1);

  it('are found with the rows that differ', () => {
    expect(pairs(flipped)).toEqual([{ first: 'a', second: 'c', same: 97, differing: [3, 30, 60] }]);
  });

  it('are not: the same file, near numbers, numbers cut at a bound, and rows with missing cells', () => {
    expect(pairs(values)).toEqual([]);
    expect(pairs(changed([3, 30, 60], (value) => value + 0.01))).toEqual([]);
    expect(pairs(values.map((value) => Math.max(value, 0.05)))).toEqual([]);
    expect(pairs(flipped, (row) => [3, 30, 60].includes(row))).toEqual([]);
  });

  it('are not looked for among files of few numbers, nor between answers of one student', () => {
    const coarse = (of: Float64Array) => of.map((value) => Math.round(10 * value) / 10);
    expect(pairs(coarse(flipped), known, coarse(values))).toEqual([]);
    const own = [values, flipped].map((of, i) => ({ answer: `a${i}`, student: 's', values: of }));
    expect(nearlySameFiles(own, known)).toEqual([]);
  });

  it('are listed by identifier, of files as they were handed in', () => {
    const ids = Array.from(values, (_, row) => `r${row}`);
    const csv = (of: Float64Array) =>
      new TextEncoder().encode(
        ['id,probability', ...ids.map((id, row) => `${id},${of[row] ?? ''}`)].join('\n'),
      );
    const heldOut = readCsv(
      new TextEncoder().encode(['id,x', ...ids.map((id, row) => `${id},${row}`)].join('\n')),
      { file: 'held-out.csv' },
    ).table;
    const rules = {
      ...{
        metric: 'roc_auc',
        needs: 'probabilities',
        task: 'binary',
        labels: ['no', 'yes'],
        positive: 'yes',
      },
      ...{ identifier: 'id', identifiers: ids, title: 'x' },
    } as never;
    const answers = [values, flipped].map((of, i) => ({
      ...{ answer: `a${i}`, student: `s${i}`, fields: {} },
      file: { name: 'f.csv', bytes: csv(of) },
    }));
    const question = { id: 'q1', kind: 'predictions' } as never;
    const { files } = likenessOf(question, { rules, key: {} as never, secret }, answers, heldOut);
    expect(files).toHaveLength(1);
    expect(files?.[0]).toMatchObject({ first: 'a0', second: 'a1', same: 97, differing: 3 });
    expect(files?.[0]?.rows.map(({ identifier }) => identifier)).toEqual(['r3', 'r30', 'r60']);
    expect(files?.[0]?.rows[0]).toMatchObject({ first: values[3], second: flipped[3] });
  });
});
