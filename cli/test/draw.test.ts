import {
  generate,
  generatorOf,
  questionKindOf,
  writeExercise,
  writeKeys,
} from '@modest-sieve/core/assessment';
import type { Question, Subject } from '@modest-sieve/core/assessment';
import { newPlan } from '@modest-sieve/core/data';
import { PUBLIC_SECRET } from '@modest-sieve/core/foundation';
import { describe, expect, it } from '@jest/globals';
import { Folder } from './sieve.js';

const SUBJECT: Subject = {
  columns: [{ name: 'y', kind: 'category' }],
  roles: {
    ...{ target: 'y', task: 'binary', positive: 'yes', identifier: null },
    ...{ group: null, time: null, weight: null, withheld: [] },
  },
};
const FIGURES = newPlan(generatorOf({ kind: 'confusion' }), []);
const begun = (kind: 'values' | 'choice', id: string) => questionKindOf(kind).begin(id, SUBJECT);

/** An exercise of a drawn question, statements, and one that is computed. */
function exercise(): Folder {
  const drawn = { ...begun('values', 'q1'), figures: FIGURES } as Question;
  const statements = begun('choice', 'q2');
  const computed = { ...begun('values', 'q3'), text: 'From {source}.' } as Question;
  const asked = [{ key: 'rows', name: 'rows', convention: null, figure: { value: 42 } }];
  const given = { given: { source: 'a report' }, table: null };
  const head = ({ id, kind, title, text }: Question) => ({ id, kind, title, text, marks: 4, example: null });
  const readings = 'statements' in statements ? statements.statements : [];
  const folder = new Folder();
  folder.write(
    'exercise.json',
    writeExercise({
      title: 'Cases',
      questions: [drawn, statements, computed],
      released: [
        { ...head(drawn), rules: { figures: FIGURES, computed: null, says: '' } },
        { ...head(statements), rules: { manner: 'each', statements: readings } } as never,
        {
          ...head(computed),
          rules: {
            figures: { kind: 'typed-key', values: {} },
            computed: { ...given, asked: [{ key: 'rows', name: 'rows' }] },
            says: '',
          },
        },
      ],
    }),
  );
  const keyOf = (key: object) => ({ key, about: [] }) as never;
  folder.write(
    'keys.json',
    writeKeys({
      secret: PUBLIC_SECRET,
      keys: {
        q1: keyOf({ computed: null }),
        q2: keyOf({ truths: readings.map(() => null) }),
        q3: keyOf({ computed: { ...given, asked } }),
      },
    }),
  );
  return folder;
}
const draw = (question: string, student: string) => [
  'draw',
  'exercise.json',
  '--question',
  question,
  '--student',
  student,
];
const KEYS = ['--key', 'keys.json'];

describe('sieve draw', () => {
  it('gives the variant of a student, and with the keys what is right', () => {
    const folder = exercise();
    const ada = folder.json([...draw('q1', 'ada'), ...KEYS]);
    const { given, asked } = generate(FIGURES, { secret: PUBLIC_SECRET, question: 'q1', id: 'ada' });
    expect(ada['text']).toContain(given['tp']);
    expect(ada['right']).toEqual(
      Object.fromEntries(asked.map((one) => [one.key, { value: 'figure' in one ? one.figure.value : null }])),
    );
    expect(folder.json([...draw('q1', 'ben'), ...KEYS])['text']).not.toBe(ada['text']);
    expect(folder.run([...draw('q1', 'ada'), ...KEYS]).out).toContain('; right: ');
  });

  it('gives the truth of the statements that a student sees', () => {
    const folder = exercise();
    const { right, fields } = folder.json([...draw('q2', 'ada'), ...KEYS]) as {
      right: Record<string, { chosen: string[] }>;
      fields: { key: string }[];
    };
    expect(Object.keys(right).sort()).toEqual(fields.map(({ key }) => key).sort());
    // What is right earns all marks.
    const typed = Object.entries(right).flatMap(([key, { chosen }]) => [
      '--field',
      `${key}=${chosen.join()}`,
    ]);
    const marked = folder.json([
      'mark',
      'exercise.json',
      ...KEYS,
      '--question',
      'q2',
      '--student',
      'ada',
      ...typed,
    ]);
    expect(marked['marks']).toBe(marked['outOf']);
  });

  it('lets a known mistake in the variant be named by sieve mark', () => {
    const folder = exercise();
    const { given, asked } = generate(FIGURES, { secret: PUBLIC_SECRET, question: 'q1', id: 'ada' });
    const recall = Number(given['tp']) / Number(given['positive']);
    const fields = asked.flatMap(({ key }) => ['--field', `${key}=${recall.toFixed(6)}`]);
    const mark = ['mark', 'exercise.json', ...KEYS, '--question', 'q1', '--student', 'ada', ...fields];
    expect(asked.map(({ key }) => key)).toEqual(['precision', 'recall_sensitivity']);
    // Recall is right where it is asked, and a slip where precision is.
    const { slips } = JSON.parse(folder.run([...mark, '--json']).out) as { slips: object[] };
    expect(slips).toContainEqual({
      id: 'precision-recall-exchanged',
      question: 'q1',
      field: 'precision',
      evidence: expect.stringContaining('this mistake'),
    });
    expect(folder.run(mark).out).toContain('→ precision and recall exchanged (precision):');
  });

  it('needs no keys for what is the same for everybody, and shows none', () => {
    const { text, right } = exercise().json(draw('q3', 'ada'));
    expect([text, right]).toEqual(['From a report.', null]);
    expect(exercise().json([...draw('q3', 'ada'), ...KEYS])['right']).toEqual({ rows: { value: 42 } });
  });

  it('says what it lacks', () => {
    const { code, said } = exercise().run(draw('q1', 'ada'));
    expect([code, said]).toEqual([2, expect.stringContaining('give them with --key')]);
    expect(exercise().run(draw('q9', 'ada')).said).toContain(
      'There is no question “q9”; there are q1, q2, q3.',
    );
  });
});
