import { Box, Text } from '@chakra-ui/react';
import { counted, shortNumber } from '@modest-sieve/core/foundation';
import type { Disclosed, DisclosedScore } from '@modest-sieve/core/assessment';
import { Suspense } from 'react';
import type { Schemas } from '../../api/client.js';
import { AnswerGrid } from '../../kit/plot/answer-grid.js';
import { CheckList } from '../../kit/layout/checks.js';
import { figureText, intervalText, metricTitle } from '../../kit/table/format.js';
import { Subtitle } from '../../kit/layout/title.js';
import { Brief } from '../../kit/layout/markdown.js';
import { ModelView } from './model-view.js';
import { FurtherTable } from '../common/further-table.js';
import { SlipNotes } from '../common/slip-notes.js';
import { schemeOf } from '../common/scheme-of.js';
import { lazily } from '../../kit/lazily.js';

/** Drawing is large: it is fetched with the first receipt that has final figures. */
const MarkLine = lazily(() => import('../../kit/plot/mark-line.js'), 'MarkLine');

/** What a student knows of one submission. */
export function Receipt({
  outcome,
  disclosed,
  problem,
  sheet,
}: {
  outcome: Schemas['ReceiptInfo']['outcome'];
  disclosed: Disclosed | null;
  problem: string | null;
  /** The question that it answers; null for one that is not there any more. */
  sheet: Schemas['QuestionSheet'] | null;
}) {
  return (
    <Box data-receipt={outcome}>
      {outcome === 'waiting' ? (
        <Text role="status" mt={2} color="quiet">
          Your answer is received and saved. It is waiting to be checked; this page will show the receipt by
          itself.
        </Text>
      ) : null}
      {outcome === 'failed' ? (
        <Text role="alert" mt={2} color="fails">
          {problem}
        </Text>
      ) : null}
      {outcome === 'refused' ? (
        <Text mt={2} color="quiet">
          The answer did not pass its checks, so it used no attempt.
        </Text>
      ) : null}
      {disclosed ? (
        <>
          {disclosed.slips ? <SlipNotes slips={disclosed.slips} sheet={sheet} /> : null}
          <CheckList label="Checks" checks={disclosed.checks} />
          {disclosed.adjusted === null ? null : (
            <Text mt={3} role="note" overflowWrap="anywhere">
              <b>Marks given by hand:</b> {disclosed.adjusted}
            </Text>
          )}
          {disclosed.comment === undefined ? null : (
            <Box mt={3} role="note" aria-label="Comment" overflowWrap="anywhere">
              <b>Comment:</b>
              <Brief text={disclosed.comment} />
            </Box>
          )}
          {disclosed.model ? <ModelView model={disclosed.model} /> : null}
          <Judged disclosed={disclosed} />
          {disclosed.scored ? <Scored scored={disclosed.scored} disclosed={disclosed} sheet={sheet} /> : null}
        </>
      ) : null}
    </Box>
  );
}

/** The checks that earn marks, and what they come to. */
function Judged({
  disclosed: { judged, marks, outOf, holds, latePercent, adjusted, scored },
}: {
  disclosed: Disclosed;
}) {
  const late = latePercent > 0 && adjusted === null ? `; ${latePercent} % taken off for lateness` : '';
  if (scored) return null;
  if (judged === null || marks === null)
    return holds ? (
      <Text mt={3} fontSize="14px" color="quiet">
        What was right, and marks, are shown when the exercise is returned{late}.
      </Text>
    ) : null;
  return (
    <>
      <Subtitle>
        <b>{marks}</b> of {counted(outOf, 'mark')}
        {late}
      </Subtitle>
      <CheckList label="What earns marks" checks={judged.map(({ check }) => check)} />
    </>
  );
}

function Scored({
  scored: { metric, feedback, notBetter, fewRows, final },
  disclosed: { marks, outOf, latePercent, adjusted, judged },
  sheet,
}: {
  scored: DisclosedScore;
  disclosed: Disclosed;
  sheet: Schemas['QuestionSheet'] | null;
}) {
  const line = final?.line ?? schemeOf(sheet);
  return (
    <>
      {feedback ? <Feedback feedback={feedback} metric={metric} isFinal={final !== null} /> : null}
      {notBetter ? (
        <Text mt={3} fontSize="14px" color="quiet">
          Its score is not a step above your best so far, so it is not shown. The step is set by the number of
          rows. The submission counts all the same.
        </Text>
      ) : null}
      {fewRows ? (
        <Text mt={3} fontSize="14px" color="quiet">
          Its score is not shown: it is undefined, or a single row decides too much of it. It counts
          nevertheless.
        </Text>
      ) : null}
      {!feedback && !notBetter && !fewRows && !final ? (
        <Text mt={3} fontSize="14px" color="quiet">
          Scores and marks are shown when the exercise is returned.
        </Text>
      ) : null}
      {final ? (
        <>
          <Subtitle>On the final rows</Subtitle>
          <Text>
            {metricTitle(metric)}{' '}
            <Text as="b" className="figures">
              {figureText(final.score)}
            </Text>
            , <b>{marks}</b> of {outOf} marks
            {latePercent > 0 && adjusted === null ? `, ${latePercent} % taken off for lateness` : ''}
          </Text>
          <Text fontSize="13.5px" color="quiet">
            {counted(final.rows, 'row')}; interval {intervalText(final.interval)}
          </Text>
          {line ? (
            <Suspense fallback={<Box h="200px" />}>
              <MarkLine scheme={line} metricKey={metric} reached={final.score} />
            </Suspense>
          ) : null}
          {final.further ? (
            <>
              <Text fontSize="13.5px" color="quiet">
                {metricTitle(metric)} earned {final.first} of {line?.marks} marks, the further figures the
                rest.
              </Text>
              <FurtherTable further={final.further} />
            </>
          ) : null}
          {judged && judged.length > 0 ? (
            <CheckList label="What the marks are based on" checks={judged.map(({ check }) => check)} />
          ) : null}
          {final.grid ? <AnswerGrid labels={final.grid.labels} counts={final.grid.counts} /> : null}
        </>
      ) : null}
    </>
  );
}

function Feedback({
  feedback,
  metric,
  isFinal,
}: {
  feedback: NonNullable<DisclosedScore['feedback']>;
  metric: string;
  isFinal: boolean;
}) {
  const { rows, score, rounded, interval, grid } = feedback;
  return (
    <>
      <Subtitle>On the feedback rows</Subtitle>
      <Text>
        {metricTitle(metric)} {rounded ? 'about ' : ''}
        <Text as="b" className="figures">
          {rounded && score !== null ? shortNumber(score) : figureText(score)}
        </Text>{' '}
        <Text as="span" color="quiet" fontSize="14px">
          on {counted(rows, 'row')}
          {rounded ? ', rounded' : ''}.
          {isFinal ? '' : ' Marks are decided on other rows, when the exercise is returned.'}
        </Text>
      </Text>
      {interval && !isFinal ? (
        <Text fontSize="13.5px" color="quiet">
          interval {intervalText(interval)}
        </Text>
      ) : null}
      {grid && !isFinal ? <AnswerGrid labels={grid.labels} counts={grid.counts} /> : null}
    </>
  );
}
