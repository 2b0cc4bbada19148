import { Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { deadlineText } from '@modest-sieve/core/assessment';
import { Suspense } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { metricOf, schemeOf } from '../exercises/common/scheme-of.js';
import { Answer, Loading } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { useAction } from '../kit/form/use-action.js';
import { UnfinishedChecks } from './unfinished-checks.js';
import { WearOfRows } from './wear-of-rows.js';
import { AnswersTogether } from './answers-together.js';
import { FoundInAnswers } from './found-in-answers.js';
import { LikenessOfAnswers } from './likeness-of-answers.js';
import { QuestionInClass } from './question-in-class.js';
import { Status } from './class-status.js';
import { useStepping } from './use-stepping.js';
import { lazily } from '../kit/lazily.js';

/** The table is there before what draws. */
const ScoreStrip = lazily(() => import('../kit/plot/score-strip.js'), 'ScoreStrip');
const AnswersOverTime = lazily(() => import('./answers-over-time.js'), 'AnswersOverTime');
const OpenedSubmission = lazily(() => import('./opened-submission.js'), 'OpenedSubmission');

/** Who has handed in what for one exercise, and beside it the submission that is opened. */
export function ClassPage() {
  const { exercise: id = '', submission } = useParams();
  const student = useSearchParams()[0].get('student');
  const address = useCourseApi();
  const exercise = useAnswer(address('/exercises/{exercise}', { exercise: id }));
  const view = useAnswer(address('/exercises/{exercise}/class', { exercise: id }));
  return (
    <Answer of={exercise} what="the exercise">
      {(about) => (
        <Answer of={view} what="the submissions">
          {(data) => <Class exercise={about} view={data} opened={submission ?? countingOf(data, student)} />}
        </Answer>
      )}
    </Answer>
  );
}

/** The first answer that counts of a student whom the address names. */
const countingOf = ({ lines }: Schemas['ClassView'], student: string | null): string | null =>
  lines.find(({ person }) => person.id === student)?.answers.find(({ counting }) => counting !== null)
    ?.counting ?? null;

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
  const [search] = useSearchParams();
  const kept = new URLSearchParams(
    [...search].filter(([key]) => ['show', 'section', 'sort'].includes(key)),
  ).toString();
  const to = (id: string) =>
    `/courses/${courseId}/exercises/${exercise.id}/submissions/${id}${kept === '' ? '' : `?${kept}`}`;
  const openedOne = view.submissions.find(({ id }) => id === opened);
  const asked = openedOne?.question ?? search.get('question');
  const sheet = exercise.sheets.find(({ id }) => id === asked) ?? exercise.sheets[0];
  const step = useStepping(
    {
      all: view.submissions.map(({ id }) => id),
      counting: view.lines.flatMap(
        ({ answers }) => answers.find(({ question }) => question === sheet?.id)?.counting ?? [],
      ),
    },
    opened,
    to,
  );
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
  const figures = view.questions.find(({ question }) => question === sheet?.id);
  const slips = view.slips.filter(({ question }) => question === sheet?.id);
  const handedIn = view.lines.filter(({ answers }) => answers.some((one) => one.submissions > 0)).length;
  return (
    <>
      <Title
        actions={
          <Link to={`/courses/${courseId}/exercises/${exercise.id}/explain`}>what to explain tomorrow</Link>
        }
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
                  <Suspense fallback={<Loading what="the scores" />}>
                    <ScoreStrip scores={scores} scheme={scheme} metricKey={metric} chosen={opened} />
                  </Suspense>
                ) : (
                  <Text color="quiet">No submission has been scored yet.</Text>
                )}
              </>
            ) : null}
            {figures ? <QuestionInClass of={figures} /> : null}
            <FoundInAnswers
              title="Known mistakes"
              what="mistake"
              found={slips.map((slip) => ({ ...slip, text: slip.title }))}
              view={view}
              to={to}
            />
            <FoundInAnswers
              title="Checks that answers fail"
              what="what one of them says"
              found={(figures?.failing ?? []).map((check) => ({ ...check, text: check.message }))}
              view={view}
              to={to}
            />
            <UnfinishedChecks
              submissions={view.submissions}
              onAgain={() =>
                send('post', address('/exercises/{exercise}/checks', { exercise: exercise.id }), {
                  submission: null,
                })
              }
            />
            {sheet ? (
              <Status view={view} exercise={exercise} sheet={sheet} slips={slips} opened={opened} to={to} />
            ) : null}
            {sheet ? (
              <>
                <AnswersTogether key={sheet.id} exerciseId={exercise.id} question={sheet.id} />
                <Suspense fallback={null}>
                  <AnswersOverTime
                    times={view.submissions
                      .filter(({ question }) => question === sheet.id)
                      .map(({ receivedAt }) => receivedAt)}
                    timeZone={timeZone}
                  />
                </Suspense>
              </>
            ) : null}
            {sheet?.kind === 'predictions' && metric && exercise.feedback !== 'after-return' ? (
              <WearOfRows key={sheet.id} exerciseId={exercise.id} question={sheet.id} />
            ) : null}
            {sheet ? (
              <LikenessOfAnswers
                key={sheet.id}
                exerciseId={exercise.id}
                question={sheet.id}
                view={view}
                to={to}
              />
            ) : null}
            <Flex mt={5} gap={3} align="center" wrap="wrap">
              {exercise.state === 'released' && role === 'instructor' ? (
                <ConfirmButton
                  text="Return to students"
                  consequence="Students then see their marks and final figures, and answers are no longer taken."
                  busy={doing.busy}
                  onConfirm={() =>
                    doing.run(() =>
                      send('post', address('/exercises/{exercise}/return', { exercise: exercise.id })),
                    )
                  }
                />
              ) : null}
              <a href={address('/gradebook.csv')} style={{ fontWeight: 700 }}>
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
            <Suspense fallback={<Loading what="the submission" />}>
              <OpenedSubmission key={opened} exercise={exercise} id={opened} place={step.place} />
            </Suspense>
          )
        }
      />
    </>
  );
}
