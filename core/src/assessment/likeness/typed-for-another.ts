import type { Plan } from '../../data/sentence/sentence.js';
import { asksNames } from '../generators/generator.js';
import type { Respondent } from '../generators/respondent.js';
import { accepts } from '../generators/tolerance.js';
import type { Typed } from '../generators/typed.js';
import type { Said } from '../questions/values/judge-values.js';
import type { ValuesKey } from '../questions/values/question.js';
import { keyOf } from '../questions/values/values.js';

/** Classes of honest students of which at most this share has any answer that is said to be right for another student. */
const FALSE_ALARMS = 0.01;
/** How often answers are held against students who are made up. */
const ROUNDS = 4;
/** Students who are made up for a round at most. */
const MOST_MADE_UP = 30_000;

/** What a student said in one answer. */
export interface TypedAnswer {
  /** Id of the student, for whom the numbers were drawn. */
  readonly student: string;
  /** Id of the answer. */
  readonly answer: string;
  readonly said: ReadonlyMap<string, Said>;
}

/** An answer whose numbers are wrong for its student and right for another one. */
export interface RightForAnother {
  readonly answer: string;
  readonly student: string;
  readonly other: string;
}

export interface TypedLikeness {
  /** Wrong answers that were held against what is right for the other students. */
  readonly compared: number;
  /** Wrong answers that too many students' numbers fit by chance, so that they say nothing. */
  readonly tooCommon: number;
  readonly found: readonly RightForAnother[];
}

/** The numbers that a student is asked for. */
type Asked = ReadonlyMap<
  string,
  { readonly value: number; readonly between: readonly [number, number] | null }
>;

/**
 * Answers whose numbers are wrong for their student, and all right for another student of the class. For who works alone
 * the numbers of others are as good as any that could have been drawn: how often an answer is right for students who are
 * made up says how often it is right for another student by chance. Answers that are so too often are left out, so that of
 * a hundred honest classes at most one has any match.
 *
 * @param respondent for whom a student's numbers are drawn, by the student's id
 * @param tolerance by which a typed number is right
 */
export function rightForAnother(
  { figures, tolerance, key }: { readonly figures: Plan; readonly tolerance: Plan; readonly key: ValuesKey },
  respondent: (id: string) => Respondent,
  answers: readonly TypedAnswer[],
): TypedLikeness {
  // What is computed once is the same for everybody.
  if (key.computed !== null) return { compared: 0, tooCommon: 0, found: [] };
  const asked = (id: string): Asked => numbersAsked(figures, key, respondent(id));
  const own = new Map([...new Set(answers.map(({ student }) => student))].map((id) => [id, asked(id)]));
  const isRight = (said: TypedAnswer['said'], numbers: Asked) => isRightFor(said, numbers, tolerance);
  const wrong = distinct(answers).filter(({ student, said }) => {
    const numbers = own.get(student);
    return numbers !== undefined && hasNumbers(said, numbers) && !isRight(said, numbers);
  });
  const others = own.size - 1;
  if (others < 1 || wrong.length === 0) return { compared: wrong.length, tooCommon: 0, found: [] };
  const rare = rareAmong(wrong, others, (i) => asked(`made up ${i}`), isRight);
  return {
    compared: wrong.length,
    tooCommon: wrong.length - rare.length,
    found: rare.flatMap(({ student, answer, said }) =>
      [...own].flatMap(([other, numbers]) =>
        other !== student && isRight(said, numbers) ? [{ answer, student, other }] : [],
      ),
    ),
  };
}

/**
 * The answers that are right for none of many students who are made up, all together. Those that are right for one are
 * dropped, and the others held against new ones, a few times at most.
 *
 * Of answers that together are right for one of the other students with a chance of Λ, none is right for any of k students
 * that are made up with a chance of exp(−Λ k / others); Λ times that is at most others / (e k), whatever Λ is. So k is
 * chosen, and each round has its share.
 */
function rareAmong(
  wrong: readonly TypedAnswer[],
  others: number,
  madeUp: (i: number) => Asked,
  isRight: (said: TypedAnswer['said'], numbers: Asked) => boolean,
): readonly TypedAnswer[] {
  const students = Math.ceil((ROUNDS * others) / (Math.E * FALSE_ALARMS));
  if (students > MOST_MADE_UP) return [];
  let left = wrong;
  for (let round = 0; round < ROUNDS; round++) {
    const right = new Set<TypedAnswer>();
    for (let i = 0; i < students; i++) {
      const numbers = madeUp(round * students + i);
      for (const one of left) if (!right.has(one) && isRight(one.said, numbers)) right.add(one);
    }
    if (right.size === 0) return left;
    left = left.filter((one) => !right.has(one));
  }
  return [];
}

function numbersAsked(figures: Plan, key: ValuesKey, who: Respondent): Asked {
  return new Map(
    keyOf(figures, key, who).asked.flatMap((one) =>
      asksNames(one) || one.figure.value === null
        ? []
        : [[one.key, { value: one.figure.value, between: one.between ?? null }] as const],
    ),
  );
}

const typedIn = (said: TypedAnswer['said'], key: string): Typed | null => {
  const own = said.get(key);
  return own && 'typed' in own ? own.typed : null;
};

const hasNumbers = (said: TypedAnswer['said'], numbers: Asked): boolean =>
  [...numbers.keys()].some((key) => typedIn(said, key) !== null);

/** Whether every number that is asked for and was typed is right. */
function isRightFor(said: TypedAnswer['said'], numbers: Asked, tolerance: Plan): boolean {
  let typed = 0;
  for (const [key, { value, between }] of numbers) {
    const own = typedIn(said, key);
    if (own === null) continue;
    typed++;
    const holds = between
      ? own.value >= between[0] && own.value <= between[1]
      : accepts(tolerance, value, own).right;
    if (!holds) return false;
  }
  return typed > 0;
}

/** Each thing that a student said once, however often it was handed in: the first answer. */
function distinct(answers: readonly TypedAnswer[]): TypedAnswer[] {
  const seen = new Set<string>();
  return answers.filter(({ student, said }) => {
    const place = JSON.stringify([student, [...said].sort(([a], [b]) => (a < b ? -1 : 1))]);
    if (seen.has(place)) return false;
    seen.add(place);
    return true;
  });
}
