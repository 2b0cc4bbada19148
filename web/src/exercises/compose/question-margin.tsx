import type { GivenColumn } from '@modest-sieve/core/data';
import { givenColumns, type Question } from '@modest-sieve/core/assessment';
import { createElement } from 'react';
import { PlanNumber, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { Subtitle } from '../../kit/layout/title.js';
import { marginOf } from '../kinds/margins.js';
import type { Data } from '../common/settings.js';

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
      {'marks' in question ? (
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
      ) : null}
      {createElement(marginOf(question.kind), { question, given, data, splitId, onChange })}
    </>
  );
}
