import type { GivenColumn } from '@modest-sieve/core/data';
import { questionKindOf, type Question } from '@modest-sieve/core/assessment';
import type { Data } from '../common/settings.js';
import { SentenceControls } from '../../kit/sentence/sentence.js';

/** What the component of one kind of question is given, beside which the question is composed. */
export interface MarginProps<K extends Question['kind']> {
  readonly question: Extract<Question, { kind: K }>;
  /** The columns that students get. */
  readonly given: readonly GivenColumn[];
  readonly data: Data;
  readonly splitId: string;
  readonly onChange: (question: Question) => void;
}

/** What is asked, as a sentence with controls. */
export function QuestionSentence<
  Q extends Extract<Question, { kind: 'model' | 'split' | 'folds' | 'curve' | 'choice' }>,
>({
  question,
  given,
  onChange,
}: {
  question: Q;
  given: readonly GivenColumn[];
  onChange: (question: Q) => void;
}) {
  const kind = questionKindOf(question.kind).sentence;
  return kind === null ? null : (
    <SentenceControls
      kind={kind}
      plan={{ kind: kind.key, values: question.values }}
      label="What is asked"
      given={given}
      onChange={({ values }) => onChange({ ...question, values })}
    />
  );
}
