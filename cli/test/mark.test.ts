import { describe, expect, it } from '@jest/globals';
import { PUBLIC_SECRET } from '@modest-sieve/core/foundation';
import { readCsv } from '@modest-sieve/core/data';
import { splitRows } from '@modest-sieve/core/splitting';
import {
  generate,
  FINAL,
  makePack,
  writeExercise,
  writeKeys,
  type Question,
} from '@modest-sieve/core/assessment';
import { Folder } from './sieve.js';

const LINES = Array.from({ length: 60 }, (_, i) => `c${i},${(i * 37) % 61},${i % 3 === 0 ? 'yes' : 'no'}`);
const QUESTIONS: readonly Question[] = [
  {
    id: 'q1',
    kind: 'predictions',
    title: 'Predict',
    text: '',
    metric: 'accuracy',
    scheme: { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10 },
  },
  {
    id: 'q2',
    kind: 'values',
    title: 'Figures',
    text: '',
    marks: 4,
    figures: { kind: 'grid-fits', values: { largest: 9, asked: ['fits'] } },
    tolerance: { kind: 'absolute', values: { within: 0 } },
  },
];

/** A folder with an exercise, its keys, and an answer that is right for the given rows. */
function exercise(right: (row: number) => boolean) {
  const { table } = readCsv(new TextEncoder().encode(`id,x,y\n${LINES.join('\n')}\n`), { file: 'cases.csv' });
  const plan = {
    kind: 'draw',
    values: { sized: 'percent', training: 60, validation: 0, heldout: 40, stratify: 'y', group: '', seed: 3 },
  };
  const pack = makePack({
    table,
    roles: {
      target: 'y',
      task: 'binary',
      positive: 'yes',
      identifier: 'id',
      group: null,
      time: null,
      weight: null,
      withheld: [],
    },
    plan,
    parts: splitRows(table, plan).parts,
    folds: null,
    curves: {},
    references: [],
    descriptions: {},
    questions: QUESTIONS,
    title: 'Cases',
    brief: '',
    conditions: [],
    reissued: false,
    reserve: new Uint8Array(table.rowCount).fill(FINAL),
    earlier: [],
    secret: PUBLIC_SECRET,
  });
  const folder = new Folder();
  const rules = pack.questions[0]?.rules;
  const identifiers = rules && 'needs' in rules && 'identifiers' in rules ? rules.identifiers : [];
  folder.write(
    'exercise.json',
    writeExercise({ title: 'Cases', questions: QUESTIONS, released: pack.questions }),
  );
  folder.write('keys.json', writeKeys({ secret: PUBLIC_SECRET, keys: pack.keys }));
  const answers = identifiers.map((id, row) => {
    const isYes = Number(id.slice(1)) % 3 === 0;
    return `${id},${isYes === right(row) ? 'yes' : 'no'}`;
  });
  folder.write('answer.csv', `id,prediction\n${answers.join('\n')}\n`);
  return folder;
}
const MARK = ['mark', 'exercise.json', 'answer.csv', '--key', 'keys.json'];

describe('sieve mark', () => {
  it('gives checks, score and marks of a file', () => {
    const result = exercise((row) => row % 6 !== 0).json([...MARK, '--question', 'q1']);
    expect(result).toMatchObject({
      kind: 'predictions',
      holds: true,
      marks: 8.67,
      outOf: 10,
      scored: { final: { rows: 24, score: { value: 20 / 24 } } },
    });
  });

  it('marks what was typed by the draw of the student who is named', () => {
    const folder = exercise(() => true);
    const fits = (id: string) => {
      const [first] = generate(
        QUESTIONS[1]?.kind === 'values' ? QUESTIONS[1].figures : { kind: '', values: {} },
        { secret: PUBLIC_SECRET, question: 'q2', id },
      ).asked;
      return String(first && 'figure' in first ? first.figure.value : null);
    };
    const asked = ['mark', 'exercise.json', '--key', 'keys.json', '--question', 'q2', '--student', 'ada'];
    expect(folder.json([...asked, '--field', `fits=${fits('ada')}`])).toMatchObject({ marks: 4 });
    const wrong = folder.run([...asked, '--field', `fits=${fits('ben')}`]);
    expect(wrong.code).toBe(1);
    expect(wrong.out).toContain('0 of 4 marks');
  });

  it('exits with 1 and says line and column where a check does not hold', () => {
    const folder = exercise(() => true);
    folder.write('answer.csv', folder.read('answer.csv').replace(/,(yes|no)\n/, ',maybe\n'));
    const { code, out } = folder.run([...MARK, '--question', 'q1']);
    expect(code).toBe(1);
    expect(out).toContain('line 2: “maybe”');
    expect(out).toContain('not marked');
  });

  it.each([
    [['mark', 'none.json', 'answer.csv', '--key', 'keys.json'], 'none.json cannot be read'],
    [['mark', 'answer.csv', 'answer.csv', '--key', 'keys.json'], 'answer.csv is not JSON'],
    [['mark', 'keys.json', 'answer.csv', '--key', 'keys.json'], 'no exercise that was released'],
    [MARK, 'Say with --question which one is answered: q1, q2.'],
    [[...MARK, '--question', 'q2', '--field', 'fits'], '--field takes key=value'],
  ])('exits with 2 and one sentence: %j', (given, words) => {
    const { code, said } = exercise(() => true).run(given);
    expect(code).toBe(2);
    expect(said).toContain(words);
  });
});
