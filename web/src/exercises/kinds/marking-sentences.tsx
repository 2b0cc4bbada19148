import { Text } from '@chakra-ui/react';
import { SieveError } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import {
  checkScheme,
  markingMetrics,
  type FurtherFigure,
  type Question,
} from '@modest-sieve/core/assessment';
import { Fragment } from 'react';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { figureText } from '../../kit/table/format.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { MarkLine } from '../../kit/plot/mark-line.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { schemeFor, type Data } from '../common/settings.js';
import { FurtherFigures } from './further-figures.js';
import { SchemeWords } from './scheme-words.js';

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
        : <SchemeWords scheme={scheme} better={metric.better} onChange={setScheme} />,{' '}
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
      <FurtherFigures
        further={question.further ?? []}
        data={data}
        onChange={(further) => onChange(withFurther(question, further))}
      />
    </>
  );
}

/** A question with other further figures; one without any has no list of them. */
function withFurther(question: ScoredQuestion, further: readonly FurtherFigure[]): ScoredQuestion {
  if (further.length > 0) return { ...question, further };
  const { further: none, ...rest } = question;
  return none ? rest : question;
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
