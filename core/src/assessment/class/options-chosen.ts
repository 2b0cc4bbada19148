import type { ReleasedQuestion } from '../packs/released-question.js';
import type { Respondent } from '../generators/respondent.js';
import type { Keys } from '../questions/question.js';
import { questionKindOf } from '../questions/registry.js';

/** An option of a field, and how many students chose it. */
export interface OptionChosen {
  /** What the field asks: a statement, or a figure's name. */
  readonly asks: string;
  readonly option: string;
  readonly students: number;
  /** Students who were asked with this option. */
  readonly asked: number;
  readonly right: boolean;
}

/** What one student chose. */
export interface ChosenBy {
  readonly who: Respondent;
  readonly fields: Readonly<Record<string, string>>;
}

/**
 * How often each option of a question was chosen, in the order in which options are first seen. A statement that is worded
 * right for some students and wrong for others is two. None of a question whose fields are typed.
 */
export function optionsChosen(
  question: ReleasedQuestion,
  key: Keys,
  answers: readonly ChosenBy[],
): OptionChosen[] {
  const kind = questionKindOf(question.kind);
  const found = new Map<string, { -readonly [K in keyof OptionChosen]: OptionChosen[K] }>();
  for (const { who, fields } of answers) {
    const asked = kind.sheet(question, question.rules, who).fields.filter(({ choices }) => choices !== null);
    if (asked.length === 0) return [];
    const right = kind.right?.(question.rules, key, who) ?? {};
    for (const field of asked) {
      const chosen = (fields[field.key] ?? '').split(';').map((one) => one.trim());
      const own = right[field.key];
      for (const { value, text } of field.choices ?? []) {
        const isRight = own !== undefined && 'chosen' in own && own.chosen.includes(value);
        const place = JSON.stringify([field.label, text, isRight]);
        const option = found.get(place) ?? {
          asks: field.label,
          option: text,
          students: 0,
          asked: 0,
          right: isRight,
        };
        option.asked += 1;
        if (chosen.includes(value)) option.students += 1;
        found.set(place, option);
      }
    }
  }
  return [...found.values()];
}
