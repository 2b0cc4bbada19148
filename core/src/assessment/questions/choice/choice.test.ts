import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { secretOf } from '../../../../test/secrets.js';
import type { Respondent } from '../../generators/respondent.js';
import { asked, begun, material, SUBJECT } from '../../../../test/asked.js';
import { LIBRARY_STATEMENTS } from '../../statements/registry.js';
import type { Sheet } from '../question.js';
import { questionKindOf } from '../registry.js';

const by = (id: string): Respondent => ({ secret: secretOf(9), question: 'q1', id });

describe('a choice', () => {
  const statements = [
    { text: 'Rows of one apiary resemble one another', truth: true },
    { text: 'A split needs no seed to be drawn again', truth: false },
    { text: 'Folds overlap', truth: false },
  ];
  /** Answers to the statements in the order in which they were written. */
  const answers = (sheet: Sheet, ...said: string[]) =>
    Object.fromEntries(
      said.map((one, i) => [sheet.fields.find(({ label }) => label === statements[i]?.text)?.key ?? '', one]),
    );

  it.each([
    ['each', ['true', 'false', 'false'], 3],
    ['each', ['true', 'false', 'true'], 2],
    ['less', ['true', 'false', 'true'], 1],
    ['less', ['false', 'true', 'true'], 0],
    ['all', ['true', 'false', 'true'], 0],
    ['all', ['true', 'false', 'false'], 3],
  ])('with credit “%s” for %j earns %d of 3', (credit, said, marks) => {
    const { hand, sheet } = asked(begun('choice', { statements, values: { manner: 'each', credit } }));
    const marked = hand({ fields: answers(sheet(), ...said) });
    expect(marked).toMatchObject({ holds: true, marks });
    if (credit !== 'each') return;
    expect(marked.judged.map(({ outOf }) => outOf)).toEqual([1, 1, 1]);
    for (const one of marked.judged) expect(one.marks).toBe(one.check.outcome === 'holds' ? 1 : 0);
  });

  it('of one statement has it, whatever order a student sees', () => {
    const one = asked(begun('choice', { statements, values: { manner: 'one' } }));
    const orders = new Set(
      ['ada', 'ben', 'cleo', 'dora', 'emil', 'finn'].map((id) => {
        const own = one.sheet(by(id)).fields[0]?.choices ?? [];
        const right = own.find(({ text }) => text.startsWith('Rows of one'))?.value ?? '';
        expect(one.hand({ fields: { chosen: right } }, by(id)).marks).toBe(3);
        return own.map(({ value }) => value).join();
      }),
    );
    expect(orders.size).toBeGreaterThan(1);
    const wrong = one.sheet().fields[0]?.choices?.find(({ text }) => text === 'Folds overlap')?.value ?? '';
    const marked = one.hand({ fields: { chosen: wrong } });
    expect(marked.marks).toBe(0);
    expect(marked.judged[0]?.check).toMatchObject({
      measured: '“Folds overlap”',
      expected: '“Rows of one apiary resemble one another”',
    });
  });

  it('of one statement refuses any statement of the library, whose truth is drawn', () => {
    const kind = questionKindOf('choice');
    const mixed = [...statements, { reading: LIBRARY_STATEMENTS[0]?.key ?? '' }];
    expect(() =>
      kind.check(begun('choice', { statements: mixed, values: { manner: 'one' } }), SUBJECT),
    ).toThrow('Statements of the library are worded right or wrong at random');
  });

  it('says what was answered', () => {
    const each = asked(begun('choice', { statements }));
    expect(each.hand({ fields: answers(each.sheet(), 'true', 'false', 'true') }).checks[0]?.message).toBe(
      '3 statements, all answered',
    );
    const one = asked(begun('choice', { statements, values: { manner: 'one' } }));
    expect(one.hand({ fields: { chosen: '1' } }).checks[0]?.message).toBe('A statement is chosen');
  });

  it('that is not answered whole is refused', () => {
    const { hand, sheet } = asked(begun('choice', { statements }));
    expect(hand({ fields: answers(sheet(), 'true', 'false') })).toMatchObject({ holds: false });
    expect(hand({ fields: answers(sheet(), 'true', 'false', 'maybe') }).checks[0]?.message).toContain(
      '“maybe” cannot be chosen',
    );
  });

  it('names its statements in an order that says nothing: the one written first has another name each time', () => {
    const nameOf = (number: number) =>
      asked(begun('choice', { statements }), material({ secret: secretOf(number) }))
        .sheet()
        .fields.find(({ label }) => label === statements[0]?.text)?.key;
    expect(new Set(Array.from({ length: 30 }, (_, number) => nameOf(number))).size).toBe(3);
  });

  it('tells no truth in what students get', () => {
    const made = asked(begun('choice', { statements }));
    expect(JSON.stringify([made.rules, made.sheet()])).not.toMatch(/"truth"/);
  });

  it('of the library is worded right or wrong at random, and marked by how it was worded', () => {
    const chance = LIBRARY_STATEMENTS.filter(({ from }) => from === 'chance');
    const own = asked(
      begun('choice', { statements: chance.map(({ key }) => ({ reading: key })), marks: chance.length }),
    );
    const truths = new Set<string>();
    for (let i = 0; i < 40; i++) {
      const who = by(`student ${i}`);
      const answers = Object.fromEntries(chance.map((_, s) => [`s${s + 1}`, 'true']));
      const { judged, marks } = own.hand({ fields: answers }, who);
      const statements = judged.filter(({ check }) => check.id !== 'work');
      statements.forEach(({ check }) => truths.add(`${check.id} ${check.expected}`));
      const told = Object.fromEntries(statements.map(({ check }) => [check.id, check.expected ?? '']));
      expect(own.hand({ fields: told }, who).marks).toBe(chance.length);
      // The same answer to every statement shows no work.
      expect(marks).toBe(0);
    }
    expect(truths.size).toBe(2 * chance.length);
  });

  it('about the data has its truth computed: 54 of 90 rows are of the most frequent class', () => {
    const share =
      Array.from({ length: 90 }, (_, i) => ((i === 7 ? 2 : i) * 7) % 10 < 6).filter(Boolean).length / 90;
    fc.assert(
      fc.property(fc.nat(), (number) => {
        const made = asked(
          begun('choice', { statements: [{ reading: 'most-frequent' }] }),
          material({ secret: secretOf(number) }),
        );
        const text = made.sheet().fields[0]?.label ?? '';
        const limit = Number(/more than (\d+) %/.exec(text)?.[1]);
        expect(made.hand({ fields: { s1: String(100 * share > limit) } }).marks).toBe(3);
      }),
      { numRuns: 20 },
    );
    expect(() => asked(begun('choice', { statements: [{ reading: 'mean-median' }] }))).toThrow(
      'need a target of numbers',
    );
  });

  it.each([
    [[], 'Give one statement or more.'],
    [[{ text: ' ', truth: true }], 'Statement 1 is empty.'],
    [[{ reading: 'nothing' }], 'There is no reading “nothing”.'],
  ])('of %j is refused when it is composed', (own, words) => {
    expect(() => questionKindOf('choice').check(begun('choice', { statements: own }), SUBJECT)).toThrow(
      words,
    );
  });

  it('says how many statements are true, as far as it is said', () => {
    const checkedOf = (manner: string) =>
      asked(begun('choice', { statements, values: { manner } })).sheet().checked;
    expect([checkedOf('one'), checkedOf('each')]).toEqual([
      'One statement is true.',
      'Any number of them may be true.',
    ]);
  });

  it('of one statement needs exactly one that is true, and none that is worded right or wrong at random', () => {
    const one = (own: typeof statements | { reading: string }[]) => () =>
      questionKindOf('choice').check(
        begun('choice', { statements: own, values: { manner: 'one' } }),
        SUBJECT,
      );
    expect(one(statements.map(({ text }) => ({ text, truth: true })))).toThrow(
      '3 statements are true, and one must be',
    );
    expect(one([{ reading: 'r2' }])).toThrow('worded right or wrong at random');
  });
});
