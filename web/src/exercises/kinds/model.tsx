import { featuresOf } from '@modest-sieve/core/data';
import { MarkingSentences } from './marking-sentences.js';
import { QuestionSentence, type MarginProps } from './question-sentence.js';

export function ModelMargin({ question, given, data, splitId, onChange }: MarginProps<'model'>) {
  return (
    <>
      <MarkingSentences question={question} data={data} splitId={splitId} onChange={onChange} />
      <QuestionSentence
        question={question}
        given={featuresOf({ columns: given }, data.roles)}
        onChange={onChange}
      />
    </>
  );
}
