import { Box, Text } from '@chakra-ui/react';
import { counted, type Disclosed, type MarkScheme } from '@modest-sieve/core';
import type { Schemas } from '../api/client.js';
import { AnswerGrid } from '../kit/answer-grid.js';
import { CheckList } from '../kit/checks.js';
import { figureText, intervalText, metricTitle } from '../kit/format.js';
import { MarkLine } from '../kit/mark-line.js';
import { Subtitle } from '../kit/title.js';

/** What a student knows of one submission. */
export function Receipt({ receipt, scheme }: { receipt: Schemas['ReceiptInfo']; scheme: MarkScheme }) {
  const { disclosed } = receipt;
  return (
    <Box data-receipt={receipt.outcome}>
      {receipt.outcome === 'waiting' ? (
        <Text role="status" mt={2} color="quiet">
          Your file is received and kept. It is waiting to be checked; this page will show the receipt by
          itself.
        </Text>
      ) : null}
      {receipt.outcome === 'failed' ? (
        <Text role="alert" mt={2} color="fails">
          {receipt.problem}
        </Text>
      ) : null}
      {receipt.outcome === 'refused' ? (
        <Text mt={2} color="quiet">
          The file did not pass its checks, so it used no attempt.
        </Text>
      ) : null}
      {disclosed ? (
        <>
          <CheckList label="Checks" checks={disclosed.checks} />
          <Feedback disclosed={disclosed} />
          {disclosed.final ? (
            <Final final={disclosed.final} metric={disclosed.metric} scheme={scheme} />
          ) : null}
        </>
      ) : null}
    </Box>
  );
}

function Feedback({ disclosed }: { disclosed: Disclosed }) {
  const { feedback } = disclosed;
  if (!feedback) {
    return disclosed.holds && !disclosed.final ? (
      <Text mt={3} fontSize="14px" color="quiet">
        Scores and marks are shown when the exercise is returned.
      </Text>
    ) : null;
  }
  return (
    <>
      <Subtitle>On the feedback rows</Subtitle>
      <Text>
        {metricTitle(disclosed.metric)} {feedback.rounded ? 'about ' : ''}
        <Text as="b" className="figures">
          {feedback.rounded ? feedback.score : figureText(feedback.score)}
        </Text>{' '}
        <Text as="span" color="quiet" fontSize="14px">
          on {counted(feedback.rows, 'row')}
          {feedback.rounded
            ? ', rounded. Marks are decided on other rows, when the exercise is returned.'
            : '.'}
        </Text>
      </Text>
    </>
  );
}

function Final({
  final,
  metric,
  scheme,
}: {
  final: NonNullable<Disclosed['final']>;
  metric: string;
  scheme: MarkScheme;
}) {
  return (
    <>
      <Subtitle>On the final rows</Subtitle>
      <Text>
        {metricTitle(metric)}{' '}
        <Text as="b" className="figures">
          {figureText(final.score)}
        </Text>
        , <b>{final.marks}</b> of {final.outOf} marks
      </Text>
      <Text fontSize="13.5px" color="quiet">
        {counted(final.rows, 'row')}; interval {intervalText(final.interval)}
      </Text>
      <MarkLine scheme={scheme} metricKey={metric} reached={final.score} />
      {final.grid ? <AnswerGrid labels={final.grid.labels} counts={final.grid.counts} /> : null}
    </>
  );
}
