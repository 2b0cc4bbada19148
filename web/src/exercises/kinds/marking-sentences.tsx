import { Text } from '@chakra-ui/react';
import { SieveError } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { checkScheme, markingMetrics, type Question } from '@modest-sieve/core/assessment';
import { Fragment } from 'react';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { figureText } from '../../kit/table/format.js';
import { PlanChoice, PlanNumber, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { MarkLine } from '../../kit/plot/mark-line.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { schemeFor, type Data } from '../common/settings.js';

type ScoredQuestion = Extract<Question, { kind: 'predictions' | 'model' }>;

/** How predictions are marked, a model’s too: the line through the points of a metric. */
export function MarkingSentences({
  question,
  data,
  splitId,
  onChange,
}: {
  question: ScoredQuestion;
  data: Data;
  splitId: string;
  onChange: (question: ScoredQuestion) => void;
}) {
  const { scheme } = question;
  const metric = metricNamed(question.metric);
  const setScheme = (change: Partial<ScoredQuestion['scheme']>) =>
    onChange({ ...question, scheme: { ...scheme, ...change } });
  const references = useReferences(splitId, question.metric);
  const problem = schemeProblem(question);
  return (
    <>
      <PlanSentence label="Marks">
        Judge by{' '}
        <PlanChoice
          label="metric"
          value={question.metric}
          choices={markingMetrics(data.roles.task).map(({ key, name }) => ({ value: key, text: name }))}
          onChange={(key) => onChange({ ...question, metric: key, scheme: schemeFor(key, splitId, data) })}
        />
        : no marks {metric.better === 'higher' ? 'up to' : 'from'}{' '}
        <PlanNumber
          label="score for nothing"
          value={scheme.nothing}
          onChange={(nothing) => setScheme({ nothing })}
        />
        ,{' '}
        <PlanNumber
          label="marks for most"
          value={scheme.mostMarks}
          onChange={(mostMarks) => setScheme({ mostMarks })}
          step={0.5}
          min={0.5}
        />{' '}
        marks at{' '}
        <PlanNumber label="score for most" value={scheme.most} onChange={(most) => setScheme({ most })} />,
        all{' '}
        <PlanNumber
          label="all marks"
          value={scheme.marks}
          onChange={(marks) => setScheme({ marks })}
          step={1}
          min={1}
          max={1000}
        />{' '}
        {metric.better === 'higher' ? 'from' : 'down to'}{' '}
        <PlanNumber label="score for all" value={scheme.all} onChange={(all) => setScheme({ all })} />,{' '}
        <PlanChoice
          label="benefit of the doubt"
          value={scheme.doubt === true ? 'giving' : 'without'}
          choices={[
            { value: 'without', text: 'without' },
            { value: 'giving', text: 'giving' },
          ]}
          onChange={(value) => setScheme({ doubt: value === 'giving' })}
        />{' '}
        the benefit of the doubt.
      </PlanSentence>
      <Text mt={1} fontSize="13px" color="quiet">
        {metric.name}: {metric.definition}.
      </Text>
      <ErrorMessage>{problem}</ErrorMessage>
      {problem === null ? (
        <MarkLine
          scheme={scheme}
          metricKey={metric.key}
          references={references}
          onScheme={(changed) => onChange({ ...question, scheme: changed })}
        />
      ) : null}
      <Anchors references={references} onAnchor={setScheme} />
    </>
  );
}

interface Reference {
  readonly name: string;
  readonly score: number;
}

/** The reference runs of the split, by the metric of the question. */
function useReferences(splitId: string, metric: string): readonly Reference[] {
  const address = useCourseApi();
  const runs = useAnswer(address('/splits/{split}/references', { split: splitId }));
  return (runs.data ?? []).flatMap(({ title, figures }) => {
    const score = figures[metric]?.value ?? null;
    return score === null ? [] : [{ name: title, score }];
  });
}

/** Reference runs as points that marks may be anchored at. */
function Anchors({
  references,
  onAnchor,
}: {
  references: readonly Reference[];
  onAnchor: (change: Partial<ScoredQuestion['scheme']>) => void;
}) {
  if (references.length === 0) return null;
  const at = (score: number) => Number(score.toPrecision(3));
  return (
    <Ruled
      label="Reference runs"
      headings={[{ text: 'reference run' }, { text: 'held-out', numeric: true }, { text: 'anchor' }]}
    >
      {references.map(({ name, score }, i) => (
        <tr key={`${name} ${score}`}>
          <Cell>
            {i + 1} · {name}
          </Cell>
          <Cell numeric>{figureText(score)}</Cell>
          <Cell nowrap>
            {(['nothing', 'most', 'all'] as const).map((point) => (
              <Fragment key={point}>
                <TextAction
                  label={`${point} at ${name}, ${figureText(score)}`}
                  onClick={() => onAnchor({ [point]: at(score) })}
                >
                  {point}
                </TextAction>{' '}
              </Fragment>
            ))}
          </Cell>
        </tr>
      ))}
    </Ruled>
  );
}

function schemeProblem({ scheme, metric }: ScoredQuestion): string | null {
  try {
    checkScheme(scheme, metricNamed(metric));
    return null;
  } catch (error) {
    if (error instanceof SieveError) return error.message;
    throw error;
  }
}
