import type { GivenColumn, Question, SentenceKind } from '@modest-sieve/core';
import { SentenceControls } from '../kit/sentence.js';

/** What the margin of one kind of question is given. */
export interface MarginProps<K extends Question['kind']> {
  readonly question: Extract<Question, { kind: K }>;
  readonly given: readonly GivenColumn[];
  readonly onChange: (question: Question) => void;
}

/** What is asked, as a sentence with controls. */
export function QuestionSentence<
  Q extends Extract<Question, { kind: 'model' | 'split' | 'folds' | 'curve' | 'choice' }>,
>({
  kind,
  question,
  given,
  onChange,
}: {
  kind: SentenceKind;
  question: Q;
  given: readonly GivenColumn[];
  onChange: (question: Q) => void;
}) {
  return (
    <SentenceControls
      kind={kind}
      plan={{ kind: kind.key, values: question.values }}
      label="What is asked"
      given={given}
      onChange={({ values }) => onChange({ ...question, values })}
    />
  );
}
