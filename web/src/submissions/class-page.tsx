import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core';
import { useEffect } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { deadlineText, figureText, momentText } from '../kit/format.js';
import { ScoreStrip } from '../kit/score-strip.js';
import { Answer, Complaint } from '../kit/states.js';
import { Cell, Ruled } from '../kit/table.js';
import { Subtitle, Title } from '../kit/title.js';
import { TwoSides } from '../kit/two-sides.js';
import { TwiceAction } from '../kit/twice-action.js';
import { useDoing } from '../kit/use-doing.js';
import { OpenedSubmission } from './opened-submission.js';

/** Who has handed in what for one exercise, and beside it the submission that is opened. */
export function ClassPage() {
  const { exercise: id = '', submission } = useParams();
  const address = useCourseApi();
  const exercise = useAnswer<'ExerciseDetail'>(address('exercises', id));
  const view = useAnswer<'ClassView'>(address('exercises', id, 'class'));
  return (
    <Answer of={exercise} what="the exercise">
      {(about) => (
        <Answer of={view} what="the submissions">
          {(data) => <Class exercise={about} view={data} opened={submission ?? null} />}
        </Answer>
      )}
    </Answer>
  );
}

function Class({
  exercise,
  view,
  opened,
}: {
  exercise: Schemas['ExerciseDetail'];
  view: Schemas['ClassView'];
  opened: string | null;
}) {
  const { timeZone, role } = useCourse();
  const doing = useDoing();
  const address = useCourseApi();
  const step = useStepping(
    view.submissions.map((s) => s.id),
    opened,
  );
  const scores = view.lines.flatMap((line) =>
    line.score === null ? [] : [{ id: line.counting ?? '', name: line.person.name, score: line.score }],
  );
  const handedIn = view.lines.filter((line) => line.submissions > 0).length;
  return (
    <>
      <Title
        aside={`${exercise.state === 'returned' ? 'returned' : 'open'} · due ${deadlineText(exercise.deadline, timeZone)} · ${handedIn} of ${counted(view.lines.length, 'student')}, ${counted(view.submissions.length, 'file')}`}
      >
        {exercise.title}
      </Title>
      <TwoSides
        left={
          <>
            <Subtitle>Scores on the final rows, the submission that counts</Subtitle>
            {scores.length > 0 ? (
              <ScoreStrip
                scores={scores}
                scheme={exercise.scheme}
                metricKey={exercise.metric}
                chosen={opened}
              />
            ) : (
              <Text color="quiet">No submission has been scored yet.</Text>
            )}
            <Status view={view} exercise={exercise} opened={opened} />
            <Flex mt={5} gap={3} align="center" wrap="wrap">
              {exercise.state === 'released' && role === 'instructor' ? (
                <TwiceAction
                  text="Return to students"
                  consequence="Students then see their marks and final figures, and no more files are taken."
                  busy={doing.busy}
                  onConfirm={() => doing.run(() => send('POST', address('exercises', exercise.id, 'return')))}
                />
              ) : null}
              <a href={address('gradebook.csv')} style={{ fontWeight: 700 }}>
                Export marks as CSV
              </a>
            </Flex>
            <Complaint>{doing.problem?.message}</Complaint>
          </>
        }
        right={
          opened === null ? (
            <Text mt={5} color="quiet">
              Open a submission from the table to see its checks, its score with an interval, and where it
              went wrong.
            </Text>
          ) : (
            <OpenedSubmission key={opened} exercise={exercise} id={opened} place={step.place} />
          )
        }
      />
    </>
  );
}

function Status({
  view,
  exercise,
  opened,
}: {
  view: Schemas['ClassView'];
  exercise: Schemas['ExerciseDetail'];
  opened: string | null;
}) {
  const { id, timeZone } = useCourse();
  const to = (submission: string) => `/courses/${id}/submissions/${exercise.id}/${submission}`;
  return (
    <>
      <Subtitle>Students</Subtitle>
      <Ruled
        label="Students"
        headings={[
          { text: 'student' },
          { text: 'files' },
          { text: 'last' },
          { text: 'score', numeric: true },
          { text: 'marks', numeric: true },
        ]}
      >
        {view.lines.map((line) => (
          <tr key={line.person.id}>
            <Cell strong>
              {line.counting ? <Link to={to(line.counting)}>{line.person.name}</Link> : line.person.name}
            </Cell>
            <Cell>
              {line.submissions === 0 ? (
                <Text color="quiet">nothing yet</Text>
              ) : (
                <Flex gap={3} wrap="wrap">
                  {view.submissions
                    .filter((s) => s.personId === line.person.id)
                    .map((s) => (
                      <Box key={s.id}>
                        <Link
                          to={to(s.id)}
                          aria-current={s.id === opened ? 'true' : undefined}
                          aria-label={`file ${s.number} of ${line.person.name}`}
                          style={{ textDecoration: 'underline' }}
                        >
                          {s.number}
                        </Link>{' '}
                        <Text
                          as="span"
                          color={s.outcome === 'refused' || s.outcome === 'failed' ? 'fails' : 'quiet'}
                        >
                          {s.id === line.counting ? 'counts' : s.outcome}
                        </Text>
                      </Box>
                    ))}
                </Flex>
              )}
            </Cell>
            <Cell quiet>{line.lastAt ? momentText(line.lastAt, timeZone) : ''}</Cell>
            <Cell numeric>{figureText(line.score)}</Cell>
            <Cell numeric>{line.marks === null ? '–' : `${line.marks} of ${exercise.scheme.marks}`}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}

/** The keys [ and ] step through the submissions. */
function useStepping(ids: readonly string[], opened: string | null): { place: string } {
  const navigate = useNavigate();
  const { id } = useCourse();
  const { exercise = '' } = useParams();
  const index = opened === null ? -1 : ids.indexOf(opened);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const way = event.key === ']' ? 1 : event.key === '[' ? -1 : 0;
      const next = ids[(index + way + ids.length) % ids.length];
      if (way !== 0 && next !== undefined) void navigate(`/courses/${id}/submissions/${exercise}/${next}`);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [ids, index, id, exercise, navigate]);
  return { place: `[ ${index + 1} of ${ids.length} ]` };
}
