import {
  CURVE_SENTENCE,
  featuresOf,
  FOLDS_SENTENCE,
  givenColumns,
  MODEL_SENTENCE,
  SPLIT_SENTENCE,
  type GivenColumn,
  type Question,
  type Task,
} from '@modest-sieve/core';
import { useAnswers } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { PlanChoice, PlanNumber, PlanSentence } from '../kit/plan-sentence.js';
import { Subtitle } from '../kit/title.js';
import { ChoiceMargin } from './choice-margin.js';
import { MarkingSentences } from './marking-sentences.js';
import { QuestionSentence, type MarginProps } from './question-sentence.js';
import type { Data } from './settings.js';
import { ValuesMargin } from './values-margin.js';

/** Key and marks of the question that is being composed. */
export function QuestionMargin({
  question,
  place,
  data,
  splitId,
  onChange,
}: {
  question: Question;
  place: number;
  data: Data;
  splitId: string;
  onChange: (question: Question) => void;
}) {
  const given: GivenColumn[] = givenColumns(data).map(({ name, kind }) => ({ name, kind, values: [] }));
  return (
    <>
      <Subtitle>{`Question ${place}: key and marks`}</Subtitle>
      {'scheme' in question ? (
        <>
          <MarkingSentences question={question} data={data} splitId={splitId} onChange={onChange} />
          {question.kind === 'model' ? (
            <QuestionSentence
              kind={MODEL_SENTENCE}
              question={question}
              given={featuresOf({ columns: given }, data.roles)}
              onChange={onChange}
            />
          ) : null}
        </>
      ) : (
        <>
          <PlanSentence label="Marks">
            Worth{' '}
            <PlanNumber
              label="all marks"
              value={question.marks}
              onChange={(marks) => onChange({ ...question, marks })}
              min={0.5}
              max={1000}
              step={0.5}
            />{' '}
            marks.
          </PlanSentence>
          <KindMargin
            question={question}
            given={given}
            task={data.roles.task}
            splitId={splitId}
            onChange={onChange}
          />
        </>
      )}
    </>
  );
}

function KindMargin({
  question,
  given,
  task,
  splitId,
  onChange,
}: {
  question: Exclude<Question, { kind: 'predictions' | 'model' }>;
  given: readonly GivenColumn[];
  task: Task;
  splitId: string;
  onChange: (question: Question) => void;
}) {
  switch (question.kind) {
    case 'split':
      return <QuestionSentence kind={SPLIT_SENTENCE} question={question} given={given} onChange={onChange} />;
    case 'folds':
      return <QuestionSentence kind={FOLDS_SENTENCE} question={question} given={given} onChange={onChange} />;
    case 'curve':
      return (
        <>
          <QuestionSentence kind={CURVE_SENTENCE} question={question} given={given} onChange={onChange} />
          <RunChoice question={question} splitId={splitId} onChange={onChange} />
        </>
      );
    case 'values':
      return <ValuesMargin question={question} given={given} task={task} onChange={onChange} />;
    case 'choice':
      return <ChoiceMargin question={question} given={given} onChange={onChange} />;
  }
}

/** The reference run whose curve the student's is compared with. */
function RunChoice({
  question,
  splitId,
  onChange,
}: Omit<MarginProps<'curve'>, 'given'> & { readonly splitId: string }) {
  const address = useCourseApi();
  const runs = useAnswers<'ReferenceRun'>(address('splits', splitId, 'references')).data ?? [];
  return (
    <PlanSentence label="Run">
      In place of it compare with{' '}
      <PlanChoice
        label="reference run"
        value={question.run ?? ''}
        choices={[
          { value: '', text: 'no reference run' },
          ...runs.map(({ id, title }) => ({ value: id, text: title })),
        ]}
        onChange={(run) => onChange({ ...question, run: run === '' ? null : run })}
      />
      .
    </PlanSentence>
  );
}
