import { allHold, failing, type Check } from '../../foundation/check.js';
import type { Respondent } from '../generators/respondent.js';
import { marksOf, type Question, type Keys, type Rules } from '../questions/question.js';
import type { Answer, Judgement, Scored } from '../questions/contract/answer.js';
import type { ModelResult } from '../questions/contract/model-run.js';
import { readAnswer, unreadSlips } from '../questions/read-answer.js';
import type { FoundSlip } from '../slips/contract/slip.js';
import { questionKindOf } from '../questions/registry.js';

/** Raised whenever the same answer could get other figures than before; stored with every result. */
export const CHECKER_VERSION = 6;

/** Everything that is known of an answer. Staff see it; students see what `disclose` lets through. */
export interface Result {
  readonly kind: Question['kind'];
  /** Whether it can be marked at all; they know no answer. */
  readonly checks: readonly Check[];
  readonly holds: boolean;
  /** Rows of a file. */
  readonly rows: number | null;
  /** What earns marks, where marks are for checks. */
  readonly judged: readonly Judgement[];
  /** Null where it could not be marked. */
  readonly marks: number | null;
  readonly outOf: number;
  readonly scored: Scored | null;
  /** What decides which submission counts where the best does; null where it could not be marked, left out in earlier results. */
  readonly standing?: number | null;
  /** Known mistakes that explain what is wrong; left out in earlier results. */
  readonly slips?: readonly FoundSlip[];
  /** Of a model that was marked; left out for other kinds. */
  readonly model?: ModelResult;
}

/** Whose answer is marked, and how. */
export interface MarkingOf {
  readonly who: Respondent;
  readonly stepped: boolean;
  /** The answer whose score was the last that the student was shown; null for none. */
  readonly before: Answer | null;
}

/** Checks and marks an answer: what a worker does with a submission, and `sieve mark` too. */
export function markAnswer(
  question: Question,
  answer: Answer,
  rules: Rules,
  key: Keys,
  { who, stepped, before }: MarkingOf,
): Result {
  const kind = questionKindOf(question.kind);
  const { checks, rows, content } = readAnswer(question.kind, answer, rules, who);
  const earlier = before && readAnswer(question.kind, before, rules, who).content;
  const marking = { who, stepped, before: earlier };
  const marked = content === null ? null : kind.mark(question, content, rules, key, marking);
  const slips =
    marked === null
      ? unreadSlips(question.kind, answer, rules)
      : kind.slips(question, content, rules, key, marking, failing(marked.judged.map(({ check }) => check)));
  return {
    kind: question.kind,
    checks,
    holds: allHold(checks),
    rows,
    judged: marked?.judged ?? [],
    marks: marked?.marks ?? null,
    outOf: marksOf(question),
    scored: marked?.scored ?? null,
    standing: marked?.standing ?? marked?.marks ?? null,
    slips: slips.map((slip) => ({ ...slip, question: question.id })),
    ...(marked?.model ? { model: marked.model } : {}),
  };
}
