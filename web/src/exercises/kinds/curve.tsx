import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { QuestionSentence, type MarginProps } from './question-sentence.js';

export function CurveMargin(props: MarginProps<'curve'>) {
  return (
    <>
      <QuestionSentence {...props} />
      <RunChoice {...props} />
    </>
  );
}

/** The reference run whose curve the student's is compared with. */
function RunChoice({ question, splitId, onChange }: MarginProps<'curve'>) {
  const address = useCourseApi();
  const runs = useAnswer(address('/splits/{split}/references', { split: splitId })).data ?? [];
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
