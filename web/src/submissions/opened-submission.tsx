import { Box, Flex, Grid, Heading, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import type { Result, Scored, ScoredRows } from '@modest-sieve/core/assessment';
import { Fragment } from 'react';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { AnswerGrid } from '../kit/plot/answer-grid.js';
import { arrive, useIsGoneTo } from '../kit/layout/arrive.js';
import { CheckList } from '../kit/layout/checks.js';
import { intervalText, metricTitle, momentText, ordinal, scoreText } from '../kit/table/format.js';
import { ModelView } from '../exercises/answer/model-view.js';
import { saidIn } from '../exercises/common/said.js';
import { Brief } from '../kit/layout/markdown.js';
import { ResidualPlot } from '../kit/plot/residual-plot.js';
import { Answer } from '../kit/answer/states.js';
import { Subtitle } from '../kit/layout/title.js';
import { FurtherTable } from '../exercises/common/further-table.js';
import { AdjustMarks } from './adjust-marks.js';
import { EvidenceOfAnswer } from './answer-evidence.js';
import { Comment } from './comment.js';
import { CheckAgain } from './unfinished-checks.js';
import { SlipsInAnswer } from './slips-in-answer.js';

/** Everything that is known of one submission, for staff. */
export function OpenedSubmission({
  exercise,
  id,
  place,
}: {
  exercise: Schemas['ExerciseDetail'];
  id: string;
  place: string;
}) {
  const address = useCourseApi();
  const { timeZone } = useCourse();
  const isGoneTo = useIsGoneTo();
  const own = { exercise: exercise.id, submission: id };
  const submission = useAnswer(address('/exercises/{exercise}/submissions/{submission}', own));
  return (
    <Answer of={submission} what="the submission">
      {(data) => (
        <Box data-submission={data.outcome}>
          <Flex justify="space-between" align="baseline" gap={3} mt={5}>
            <Heading
              ref={isGoneTo ? arrive : null}
              tabIndex={-1}
              outline="none"
              as="h2"
              fontFamily="heading"
              fontSize="19px"
              fontWeight={650}
            >
              {data.person.name}
            </Heading>
            <Text fontSize="13px" color="quiet" whiteSpace="nowrap">
              {place}
            </Text>
          </Flex>
          <Text fontSize="13.5px" color="quiet" overflowWrap="anywhere">
            {ordinal(data.number)} answer · {momentText(data.receivedAt, timeZone)}
            {data.latePercent > 0 ? ` · late, ${data.latePercent} % less` : ''}
            {data.sha256 === null ? null : (
              <>
                {' · '}
                <a href={address('/exercises/{exercise}/submissions/{submission}/file', own)}>
                  {data.fileName}
                </a>{' '}
                ·{' '}
                <Text as="span" fontFamily="mono">
                  {data.sha256.slice(0, 4)}…{data.sha256.slice(-4)}
                </Text>
              </>
            )}
          </Text>
          {data.sheet && data.sheet.fields.length > 0 ? (
            <Given sheet={data.sheet} fields={data.fields} />
          ) : null}
          {data.result ? (
            <>
              <SlipsInAnswer
                submission={data}
                result={data.result}
                onJudge={(verdict) =>
                  send('put', address('/exercises/{exercise}/submissions/{submission}/slips', own), verdict)
                }
              />
              <ResultView result={data.result} target={exercise.roles?.target ?? ''} />
              {data.result.scored && data.sha256 !== null ? (
                <EvidenceOfAnswer exerciseId={exercise.id} id={id} />
              ) : null}
            </>
          ) : (
            <Box mt={3}>
              <Text>{data.problem ?? 'Waiting to be checked.'}</Text>
              {data.outcome === 'failed' ? (
                <CheckAgain
                  text="check it again"
                  onAgain={() =>
                    send('post', address('/exercises/{exercise}/checks', { exercise: exercise.id }), {
                      submission: id,
                    })
                  }
                />
              ) : null}
            </Box>
          )}
          {data.result && data.outcome === 'checked' ? (
            <AdjustMarks exerciseId={exercise.id} submission={data} outOf={data.result.outOf} />
          ) : null}
          {data.result ? (
            <Comment
              on="this answer"
              opensBy="c"
              comment={data.comment}
              onSave={(comment) =>
                send('put', address('/exercises/{exercise}/submissions/{submission}/comment', own), comment)
              }
            />
          ) : null}
          {data.result && exercise.sheets.length > 1 ? (
            <Comment
              on="all answers of this student"
              opensBy="a"
              comment={data.remark}
              onSave={(comment) =>
                send(
                  'put',
                  address('/exercises/{exercise}/remarks/{person}', {
                    exercise: exercise.id,
                    person: data.person.id,
                  }),
                  comment,
                )
              }
            />
          ) : null}
        </Box>
      )}
    </Answer>
  );
}

/** What the student was given, and what they typed or chose. */
function Given({ sheet, fields }: { sheet: Schemas['Sheet']; fields: Readonly<Record<string, string>> }) {
  return (
    <Box mt={2}>
      <Brief text={sheet.text} />
      {saidIn(sheet, fields).map(({ label, text }) => (
        <Text key={label} fontSize="13.5px">
          {label}: <b>{text}</b>
        </Text>
      ))}
    </Box>
  );
}

function ResultView({ result, target }: { result: Result; target: string }) {
  const { scored, judged, model } = result;
  return (
    <>
      <CheckList label="Checks" checks={result.checks} />
      {model ? <ModelView model={model} /> : null}
      {judged.length > 0 ? (
        <>
          <Subtitle>{`${result.marks ?? 0} of ${counted(result.outOf, 'mark')}`}</Subtitle>
          <CheckList label="What earns marks" checks={judged.map(({ check }) => check)} />
        </>
      ) : null}
      {scored ? <ScoredView scored={scored} result={result} target={target} /> : null}
    </>
  );
}

function ScoredView({
  scored: { metric, final, feedback, derivedLabels, first, further, line },
  result,
  target,
}: {
  scored: Scored;
  result: Result;
  target: string;
}) {
  return (
    <>
      <Subtitle>
        {metricTitle(metric)} {scoreText(final.score)}
        {result.marks === null ? '' : `, ${result.marks} of ${result.outOf} marks`}
      </Subtitle>
      <Text fontSize="13.5px" color="quiet">
        on {counted(final.rows, 'final row')}; interval {intervalText(final.interval)}
        {feedback ? `. On ${counted(feedback.rows, 'feedback row')}: ${scoreText(feedback.score)}` : ''}
      </Text>
      {further ? (
        <>
          <Text fontSize="13.5px" color="quiet">
            {metricTitle(metric)} earned {first} of {line?.marks} marks, the further figures the rest.
          </Text>
          <FurtherTable further={further} />
        </>
      ) : null}
      <Evidence rows={final} target={target} derived={derivedLabels} />
      <Others rows={final} />
    </>
  );
}

function Evidence({ rows, target, derived }: { rows: ScoredRows; target: string; derived: boolean }) {
  if (rows.grid) {
    return (
      <>
        <Subtitle>Answer grid{derived ? ', labels from probabilities' : ''}</Subtitle>
        <AnswerGrid labels={rows.grid.labels} counts={rows.grid.counts} />
      </>
    );
  }
  if (!rows.residuals) return null;
  return (
    <>
      <Subtitle>Residuals</Subtitle>
      <ResidualPlot predicted={rows.residuals.predicted} residual={rows.residuals.residual} unit={target} />
    </>
  );
}

function Others({ rows }: { rows: ScoredRows }) {
  return (
    <>
      <Subtitle>Other figures</Subtitle>
      <Grid templateColumns="1fr auto" columnGap={4} fontSize="13.5px">
        {Object.entries(rows.others).map(([key, figure]) => (
          <Fragment key={key}>
            <Text color="quiet">{metricTitle(key)}</Text>
            <Text className="figures" textAlign="right">
              {scoreText(figure)}
            </Text>
          </Fragment>
        ))}
      </Grid>
    </>
  );
}
