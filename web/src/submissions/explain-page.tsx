import { Box, Flex, Grid, Text } from '@chakra-ui/react';
import { questionKindOf, slipOf } from '@modest-sieve/core/assessment';
import { counted } from '@modest-sieve/core/foundation';
import { Link, useParams } from 'react-router';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { metricOf, schemeOf } from '../exercises/common/scheme-of.js';
import { Answer } from '../kit/answer/states.js';
import { Action } from '../kit/form/action.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { MarksHistogram } from '../kit/plot/marks-histogram.js';
import { ScoreStrip } from '../kit/plot/score-strip.js';
import { figureText, metricTitle, percent } from '../kit/table/format.js';
import { slipGroups } from './slip-groups.js';

const isScored = ({ kind }: Exercise['sheets'][number]) => questionKindOf(kind).markedBy === 'score';

/** Mistakes and subgroups that the page has: what a lesson has time for. */
const MOST = 3;

type Exercise = Schemas['ExerciseDetail'];
type View = Schemas['ClassView'];

/** One page on an exercise for the whole class, to print: no names, no rows, and before the return no right answers. */
export function ExplainPage() {
  const { exercise: id = '' } = useParams();
  const address = useCourseApi();
  const exercise = useAnswer(address('/exercises/{exercise}', { exercise: id }));
  const view = useAnswer(address('/exercises/{exercise}/class', { exercise: id }));
  return (
    <Answer of={exercise} what="the exercise">
      {(about) => (
        <Answer of={view} what="the submissions">
          {(data) => <Explain exercise={about} view={data} />}
        </Answer>
      )}
    </Answer>
  );
}

function Explain({ exercise, view }: { exercise: Exercise; view: View }) {
  const { id: courseId } = useCourse();
  const isReturned = exercise.state === 'returned';
  const marks = view.lines.flatMap((line) => line.marks ?? []);
  return (
    <Box maxW="960px" mx="auto">
      <Title
        aside={`${marks.length} of ${counted(view.lines.length, 'student')} have marks`}
        actions={
          <Box _print={{ display: 'none' }}>
            <Link to={`/courses/${courseId}/exercises/${exercise.id}/submissions`}>the class</Link>
          </Box>
        }
      >
        {exercise.title}: what to explain
      </Title>
      {marks.length === 0 ? (
        <Text mt={4}>
          Nobody has marks yet. Once answers are checked, this page says what went wrong most.
        </Text>
      ) : (
        <>
          {isReturned ? <Marks marks={marks} outOf={exercise.marks} /> : null}
          <Mistakes view={view} exercise={exercise} />
          {exercise.sheets.map((sheet, i) => (
            <Scores
              key={sheet.id}
              number={exercise.sheets.length > 1 ? i + 1 : null}
              exercise={exercise}
              sheet={sheet}
              view={view}
            />
          ))}
          {isReturned ? null : (
            <Text mt={5} fontSize="13.5px" color="quiet">
              The exercise is open: marks, figures of the class’s own answers, and the subgroups that it
              misses, are added when it is returned.
            </Text>
          )}
          <Flex mt={5} _print={{ display: 'none' }}>
            <Action plain onClick={() => window.print()}>
              Print this page
            </Action>
          </Flex>
        </>
      )}
    </Box>
  );
}

function Marks({ marks, outOf }: { marks: readonly number[]; outOf: number }) {
  const mean = marks.reduce((a, b) => a + b, 0) / marks.length;
  return (
    <>
      <Subtitle>Marks of the class</Subtitle>
      <Text fontSize="15px">
        On average {figureText(mean)} of {counted(outOf, 'mark')}, {percent(mean / outOf)}.
      </Text>
      <MarksHistogram marks={marks} outOf={outOf} />
    </>
  );
}

/** The commonest known mistakes, what to do about them, and how one of them looked. */
function Mistakes({ view, exercise }: { view: View; exercise: Exercise }) {
  // What follows from held-out answers waits for the return, as it does for a student.
  const slips = view.slips.filter(
    ({ id, question }) =>
      exercise.state === 'returned' ||
      slipOf(id).from === 'form' ||
      exercise.sheets.some((sheet) => sheet.id === question && !isScored(sheet)),
  );
  if (slips.length === 0) return null;
  const numbers = new Map(exercise.sheets.map(({ id }, i) => [id, i + 1]));
  return (
    <>
      <Subtitle>The commonest mistakes</Subtitle>
      {slipGroups(slips)
        .slice(0, MOST)
        .map((group) => {
          const [{ question, answers, evidence }] = group;
          return (
            <Grid
              key={`${question} ${group.map(({ id }) => id).join(' ')}`}
              templateColumns="9ch 1fr"
              columnGap={4}
              py={3}
              borderTop="1px solid"
              borderColor="rule"
            >
              <Text fontSize="13px" color="quiet">
                <Text
                  as="span"
                  display="block"
                  fontSize="29px"
                  color="ink"
                  fontFamily="heading"
                  fontWeight={650}
                >
                  {answers.length}
                </Text>
                {answers.length === 1 ? 'student' : 'students'}
              </Text>
              <Box>
                {exercise.sheets.length > 1 || group.length > 1 ? (
                  <Text fontSize="13px" color="quiet">
                    {[
                      ...(exercise.sheets.length > 1 ? [`question ${numbers.get(question) ?? ''}`] : []),
                      ...(group.length > 1 ? ['one of these mistakes; each gives the same figure'] : []),
                    ].join(': ')}
                  </Text>
                ) : null}
                {group.map(({ id, title }) => (
                  <Mistake key={id} id={id} title={title} />
                ))}
                {exercise.state === 'returned' ? (
                  <Text fontSize="14px" color="quiet" maxW="72ch">
                    In one answer of this class: {evidence}.
                  </Text>
                ) : null}
              </Box>
            </Grid>
          );
        })}
    </>
  );
}

function Mistake({ id, title }: { id: string; title: string }) {
  const { says, remedy, example } = slipOf(id);
  return (
    <Box data-explained={id} mb={1}>
      <Text fontWeight={700}>{title}</Text>
      <Text maxW="72ch">{says}</Text>
      <Text maxW="72ch">{remedy}</Text>
      <Text fontSize="14px" color="quiet" maxW="72ch">
        For example: {example}
      </Text>
    </Box>
  );
}

/** Scores of the class over the mark line, and the subgroups that it misses. */
function Scores({
  number,
  exercise,
  sheet,
  view,
}: {
  number: number | null;
  exercise: Exercise;
  sheet: Exercise['sheets'][number];
  view: View;
}) {
  const answers = view.lines.flatMap((line) => line.answers.filter(({ question }) => question === sheet.id));
  const scheme = answers.find(({ line }) => line !== null)?.line ?? schemeOf(sheet);
  const metric = metricOf(sheet);
  const scores = answers.flatMap(({ score }, i) =>
    score === null ? [] : [{ id: String(i), name: 'one student', score }],
  );
  // Scores on the final rows are for the return.
  if (exercise.state !== 'returned' || !scheme || !metric || scores.length === 0) return null;
  return (
    <>
      <Subtitle>
        {metricTitle(metric)} on the final rows{number === null ? '' : `, question ${number}`}
      </Subtitle>
      <ScoreStrip scores={scores} scheme={scheme} metricKey={metric} chosen={null} />
      {sheet.kind === 'predictions' ? <Subgroups exerciseId={exercise.id} question={sheet.id} /> : null}
    </>
  );
}

function Subgroups({ exerciseId, question }: { exerciseId: string; question: string }) {
  const address = useCourseApi();
  const together = useAnswer(
    address('/exercises/{exercise}/class/{question}/answers', { exercise: exerciseId, question }),
  );
  return (
    <Answer of={together} what="what the answers have in common">
      {({ rows }) => {
        if (!rows || rows.subgroups.length === 0) return null;
        const figure = (missed: number) => (rows.kind === 'labels' ? percent(missed) : figureText(missed));
        return (
          <Box mt={2} fontSize="15px" maxW="72ch">
            <Text fontWeight={700}>Where the class was wrong most</Text>
            {rows.subgroups.slice(0, MOST).map(({ column, value, rows: n, missed, elsewhere }) => (
              <Text key={`${column} ${value}`}>
                {column}: {value} ({n} rows) – {rows.kind === 'labels' ? 'missed by' : 'mean absolute error'}{' '}
                <b>{figure(missed)}</b>, elsewhere {figure(elsewhere)}
              </Text>
            ))}
          </Box>
        );
      }}
    </Answer>
  );
}
