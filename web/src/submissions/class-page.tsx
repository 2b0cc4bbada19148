import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { deadlineText } from '@modest-sieve/core/assessment';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { usePageKeys } from '../kit/layout/use-page-keys.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { metricOf, schemeOf } from '../exercises/scheme-of.js';
import { TextAction } from '../kit/form/action.js';
import { figureText, momentText } from '../kit/table/format.js';
import { PlanMoment } from '../kit/sentence/plan-sentence.js';
import { ScoreStrip } from '../kit/plot/score-strip.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { useAction } from '../kit/form/use-action.js';
import { WearOfRows } from './wear-of-rows.js';
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
  const { id: courseId, timeZone, role } = useCourse();
  const doing = useAction();
  const address = useCourseApi();
  const step = useStepping(
    view.submissions.map((s) => s.id),
    opened,
  );
  const [search] = useSearchParams();
  const openedOne = view.submissions.find(({ id }) => id === opened);
  const asked = openedOne?.question ?? search.get('question');
  const sheet = exercise.sheets.find(({ id }) => id === asked) ?? exercise.sheets[0];
  // The line by which answers were marked begins where guessing ends, which may be above the point that was set.
  const lines = view.lines.flatMap(({ answers }) =>
    answers.flatMap(({ question, line }) => (question === sheet?.id && line !== null ? [line] : [])),
  );
  const scheme = lines[0] ?? schemeOf(sheet);
  const metric = metricOf(sheet);
  const scores = view.lines.flatMap(({ person, answers }) =>
    answers.flatMap(({ question, score, counting }) =>
      question !== sheet?.id || score === null ? [] : [{ id: counting ?? '', name: person.name, score }],
    ),
  );
  const handedIn = view.lines.filter(({ answers }) => answers.some((one) => one.submissions > 0)).length;
  return (
    <>
      <Title
        aside={`${exercise.state === 'returned' ? 'returned' : 'open'} · due ${deadlineText(exercise.deadline, timeZone)} · ${handedIn} of ${counted(view.lines.length, 'student')}, ${counted(view.submissions.length, 'answer')}`}
      >
        {exercise.title}
      </Title>
      <TwoPane
        left={
          <>
            {exercise.sheets.length > 1 ? (
              <Flex as="nav" aria-label="Questions" mt={4} gap={4} wrap="wrap" fontSize="14.5px">
                {exercise.sheets.map(({ id, title }, i) => (
                  <Text as="span" key={id} aria-current={id === sheet?.id ? 'true' : undefined}>
                    {id === sheet?.id ? (
                      <b>
                        {i + 1} · {title}
                      </b>
                    ) : (
                      <Link to={`/courses/${courseId}/exercises/${exercise.id}/submissions?question=${id}`}>
                        {i + 1} · {title}
                      </Link>
                    )}
                  </Text>
                ))}
              </Flex>
            ) : null}
            {scheme && metric ? (
              <>
                <Subtitle>Scores on the final rows, the submission that counts</Subtitle>
                {scores.length > 0 ? (
                  <ScoreStrip scores={scores} scheme={scheme} metricKey={metric} chosen={opened} />
                ) : (
                  <Text color="quiet">No submission has been scored yet.</Text>
                )}
              </>
            ) : null}
            {sheet ? <Status view={view} exercise={exercise} sheet={sheet} opened={opened} /> : null}
            {sheet?.kind === 'predictions' && metric && exercise.feedback !== 'after-return' ? (
              <WearOfRows key={sheet.id} exerciseId={exercise.id} question={sheet.id} />
            ) : null}
            <Flex mt={5} gap={3} align="center" wrap="wrap">
              {exercise.state === 'released' && role === 'instructor' ? (
                <ConfirmButton
                  text="Return to students"
                  consequence="Students then see their marks and final figures, and answers are no longer taken."
                  busy={doing.busy}
                  onConfirm={() => doing.run(() => send('POST', address('exercises', exercise.id, 'return')))}
                />
              ) : null}
              <a href={address('gradebook.csv')} style={{ fontWeight: 700 }}>
                Export marks as CSV
              </a>
            </Flex>
            <ErrorMessage>{doing.problem?.message}</ErrorMessage>
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
  sheet,
  opened,
}: {
  view: Schemas['ClassView'];
  exercise: Schemas['ExerciseDetail'];
  sheet: Schemas['QuestionSheet'];
  opened: string | null;
}) {
  const { id, timeZone, role } = useCourse();
  const many = exercise.sheets.length > 1;
  const hasScore = schemeOf(sheet) !== null;
  const to = (submission: string) => `/courses/${id}/exercises/${exercise.id}/submissions/${submission}`;
  return (
    <>
      <Subtitle>Students</Subtitle>
      <Ruled
        label="Students"
        headings={[
          { text: 'student' },
          { text: 'answers' },
          { text: 'last' },
          ...(hasScore ? [{ text: 'score', numeric: true }] : []),
          { text: 'marks', numeric: true },
          ...(many ? [{ text: 'in all', numeric: true }] : []),
          ...(role === 'instructor' ? [{ text: 'due' }] : []),
        ]}
      >
        {linesFor(view, sheet.id).map((line) => (
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
                    .filter((s) => s.personId === line.person.id && s.question === sheet.id)
                    .map((s) => (
                      <Box key={s.id}>
                        <Link
                          to={to(s.id)}
                          aria-current={s.id === opened ? 'true' : undefined}
                          aria-label={`answer ${s.number} of ${line.person.name}`}
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
            {hasScore ? <Cell numeric>{figureText(line.score)}</Cell> : null}
            <Cell numeric>{line.marks === null ? '–' : `${line.marks} of ${sheet.marks}`}</Cell>
            {many ? (
              <Cell numeric>{line.total === null ? '–' : `${line.total} of ${exercise.marks}`}</Cell>
            ) : null}
            {role === 'instructor' ? (
              <Cell nowrap>
                <OwnDeadline exercise={exercise} person={line.person} deadline={line.deadline} />
              </Cell>
            ) : null}
          </tr>
        ))}
      </Ruled>
    </>
  );
}

/** The lines of the class with what was answered to one question. */
const linesFor = (view: Schemas['ClassView'], question: string) =>
  view.lines.flatMap(({ person, answers, marks: total, deadline }) => {
    const own = answers.find((one) => one.question === question);
    return own ? [{ ...own, person, total, deadline }] : [];
  });

/** A student's own deadline, given and taken back in place. */
function OwnDeadline({
  exercise,
  person,
  deadline,
}: {
  exercise: Schemas['ExerciseDetail'];
  person: { readonly id: string; readonly name: string };
  deadline: string | null;
}) {
  const { timeZone } = useCourse();
  const address = useCourseApi();
  const doing = useAction();
  const [typed, setTyped] = useState<string | null>(null);
  const set = (next: string | null) =>
    doing.run(async () => {
      await send('PUT', address('exercises', exercise.id, 'deadlines', person.id), { deadline: next });
      setTyped(null);
    });
  if (typed !== null)
    return (
      <>
        <PlanMoment label={`own deadline of ${person.name}`} value={typed} onChange={setTyped} />{' '}
        <TextAction
          label={`keep the deadline of ${person.name}`}
          onClick={() => set(DateTime.fromISO(typed, { zone: timeZone }).toISO())}
        >
          keep
        </TextAction>{' '}
        <TextAction label={`leave the deadline of ${person.name}`} onClick={() => setTyped(null)}>
          leave
        </TextAction>
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      </>
    );
  const start = DateTime.fromISO(deadline ?? exercise.deadline, { zone: timeZone }).toFormat(
    "yyyy-MM-dd'T'HH:mm",
  );
  const shown = deadline === null ? 'extend' : deadlineText(deadline, timeZone);
  return (
    <>
      <TextAction label={`${shown} for ${person.name}`} onClick={() => setTyped(start)}>
        {shown}
      </TextAction>
      {deadline === null ? null : (
        <>
          {' '}
          <TextAction label={`take back the deadline of ${person.name}`} onClick={() => set(null)}>
            take back
          </TextAction>
        </>
      )}
    </>
  );
}

/** The keys [ and ] step through the submissions. */
function useStepping(ids: readonly string[], opened: string | null): { place: string } {
  const navigate = useNavigate();
  const { id } = useCourse();
  const { exercise = '' } = useParams();
  const index = opened === null ? -1 : ids.indexOf(opened);
  const step = (way: number) => {
    const next = ids[(index + way + ids.length) % ids.length];
    if (next !== undefined) void navigate(`/courses/${id}/exercises/${exercise}/submissions/${next}`);
  };
  usePageKeys({ '[': () => step(-1), ']': () => step(1) });
  return { place: `[ ${index + 1} of ${ids.length} ]` };
}
