import { questionKindOf, deadlineText, lateWords } from '@modest-sieve/core/assessment';
import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { send, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { CheckList } from '../kit/layout/checks.js';
import { Brief } from '../kit/layout/markdown.js';
import { MarkLine } from '../kit/plot/mark-line.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { TextArea } from '../kit/form/text-area.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { useAction } from '../kit/form/use-action.js';
import { KeyLines } from './key-lines.js';
import { PackLine } from './pack-line.js';
import { feedbackWords, TimesSentence } from './policy-sentence.js';
import { QuestionView } from './question-view.js';
import { metricOf, schemeOf } from './scheme-of.js';
import { settingsIn } from './settings.js';

/** An exercise that students have: brief, questions, pack and its audit, keys and marks. */
export function ReleasedExercise({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const { id, timeZone, joinCode, role } = useCourse();
  const { sheets, keys, audit, state } = exercise;
  const late = lateWords(exercise);
  return (
    <TwoPane
      left={
        <>
          <Title
            aside={`${state === 'returned' ? 'returned' : 'open'} · due ${deadlineText(exercise.deadline, timeZone)} · ${counted(exercise.marks, 'mark')}`}
          >
            {exercise.title}
          </Title>
          {exercise.opensAt !== null && exercise.opensAt > exercise.now ? (
            <Text mt={1} fontWeight={700}>
              Students see it from {deadlineText(exercise.opensAt, timeZone)} on.
            </Text>
          ) : null}
          {exercise.stale ? (
            <Text mt={2} role="status">
              <b>Keys out of date.</b> The reference runs of the split have changed since the keys were
              computed.{' '}
              {role === 'instructor' ? <Link to="correction">See what new keys would change</Link> : null}
            </Text>
          ) : null}
          {exercise.notice === '' ? null : <Text mt={2}>Students read: {exercise.notice}</Text>}
          <Box mt={3}>
            <Brief text={exercise.brief} />
          </Box>
          <PackLine exercise={exercise} />
          {sheets.map((sheet, i) => (
            <QuestionView key={sheet.id} sheet={sheet} place={i + 1}>
              {questionKindOf(sheet.kind).markedBy === 'key' ? (
                <Box as="ul" pl={5} fontSize="13.5px" color="quiet" aria-label={`asked in question ${i + 1}`}>
                  {sheet.fields.map(({ key, label }) => (
                    <li key={key}>{label}</li>
                  ))}
                </Box>
              ) : null}
            </QuestionView>
          ))}
          <Text mt={4}>
            <Link to={`/courses/${id}/exercises/${exercise.id}/submissions`}>See what was handed in</Link>
          </Text>
          {joinCode === null ? null : (
            <Text mt={1} fontSize="13.5px" color="quiet">
              Students join this course with the code <b>{joinCode}</b>.
            </Text>
          )}
          {role === 'instructor' ? <Changes exercise={exercise} /> : null}
        </>
      }
      right={
        <>
          {sheets.map((sheet, i) => {
            const scheme = schemeOf(sheet);
            const metric = metricOf(sheet);
            return (
              <Box key={sheet.id}>
                <Subtitle>{`Question ${i + 1}: key and marks`}</Subtitle>
                {scheme && metric ? <MarkLine scheme={scheme} metricKey={metric} /> : null}
                <KeyLines about={keys?.find(({ question }) => question === sheet.id)?.about ?? []} />
              </Box>
            );
          })}
          <Subtitle>Attempts and feedback</Subtitle>
          <Text fontSize="14px" color="quiet">
            {counted(exercise.attempts, 'attempt')} at each question
            {exercise.perDay === null ? '' : `, ${exercise.perDay} a day`}; the {exercise.counts} counts
            {late === '' ? '' : `; ${late}`}. While it is open students see{' '}
            {feedbackWords(
              exercise.feedback,
              sheets.map(({ kind }) => kind),
            )}
            .
          </Text>
          {audit && audit.length > 0 ? (
            <>
              <Subtitle>Audit of the pack</Subtitle>
              <CheckList label="Audit of the pack" checks={audit} />
            </>
          ) : null}
        </>
      }
    />
  );
}

/** The way to a correction, by how far it is. */
const CORRECTION = {
  none: 'Correct keys or marks',
  waiting: 'A correction is being computed',
  ready: 'Read what a correction changes',
  failed: 'A correction could not be computed',
} as const;

/** What changes an open exercise, or opens a returned one again. */
const AMENDING = {
  released: {
    begin: 'Amend',
    title: 'Amend what may still change',
    consequence: null,
    route: 'amendment',
    end: 'Amend and tell students',
  },
  returned: {
    begin: 'Reopen',
    title: 'Reopen this exercise',
    consequence:
      'Students can hand in again until the deadline; marks follow when you return the exercise again. What the return showed them stays known: a question whose right answers were shown stays closed, and scores on the final rows can guide the next file. For one student alone, set an own deadline in the list of submissions first, and leave this one in the past.',
    route: 'reopening',
    end: 'Reopen and tell students',
  },
} as const;

/** What an instructor may still do to an exercise that was released. */
function Changes({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const { id: courseId } = useCourse();
  const navigate = useNavigate();
  const doing = useAction();
  const [amending, setAmending] = useState(false);
  const duplicate = async () => {
    const { title, ...settings } = settingsIn(exercise);
    const { id } = await send<Schemas['Created']>('POST', address('exercises'), {
      ...settings,
      title: `${title}, again`,
      opensAt: null,
    });
    await navigate(`/courses/${courseId}/exercises/${id}`);
  };
  return (
    <>
      <Flex mt={5} gap={3} wrap="wrap" align="center">
        <Action plain onClick={() => setAmending(!amending)}>
          {AMENDING[exercise.state === 'returned' ? 'returned' : 'released'].begin}
        </Action>
        {exercise.state === 'released' ? (
          <>
            <ConfirmButton
              text="Withdraw"
              consequence="It is a draft again and students see it no more. Once something was handed in, it can only be amended."
              busy={doing.busy}
              onConfirm={() => doing.run(() => send('POST', address('exercises', exercise.id, 'withdraw')))}
            />
          </>
        ) : null}
        <Link to="correction" style={{ fontWeight: 700 }}>
          {CORRECTION[exercise.correction ?? 'none']}
        </Link>
        <TextAction onClick={() => doing.run(duplicate)}>Duplicate as a draft</TextAction>
        <a href={address('exercises', exercise.id, 'file')} style={{ fontWeight: 700 }}>
          Exercise as JSON
        </a>
        <a href={address('exercises', exercise.id, 'keys')} style={{ fontWeight: 700 }}>
          Keys as JSON
        </a>
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      {amending ? <Amend exercise={exercise} onDone={() => setAmending(false)} /> : null}
    </>
  );
}

function Amend({ exercise, onDone }: { exercise: Schemas['ExerciseDetail']; onDone: () => void }) {
  const address = useCourseApi();
  const doing = useAction();
  const words = AMENDING[exercise.state === 'returned' ? 'returned' : 'released'];
  const { title, brief, attempts, perDay, deadline, graceMinutes, latePercent, lateDays } = exercise;
  const [amendment, setAmendment] = useState<Schemas['Amendment']>({
    title,
    brief,
    attempts,
    perDay,
    deadline,
    graceMinutes,
    latePercent,
    lateDays,
    notice: '',
  });
  return (
    <Box mt={4} maxW="72ch">
      <Subtitle arrives>{words.title}</Subtitle>
      {words.consequence === null ? null : (
        <Text mb={2} fontSize="14px" color="quiet">
          {words.consequence}
        </Text>
      )}
      <TextArea
        rows={5}
        label="Brief, in Markdown"
        value={amendment.brief}
        onChange={(brief) => setAmendment({ ...amendment, brief })}
      />
      <TimesSentence times={amendment} onChange={(change) => setAmendment({ ...amendment, ...change })} />
      <TextArea
        label="What students read of the change"
        placeholder="What has changed: students read this above the brief"
        value={amendment.notice}
        onChange={(notice) => setAmendment({ ...amendment, notice })}
      />
      <Flex mt={3} gap={3} align="center">
        <Action
          busy={doing.busy}
          onClick={() =>
            doing.run(async () => {
              await send('PUT', address('exercises', exercise.id, words.route), amendment);
              onDone();
            })
          }
        >
          {words.end}
        </Action>
        <TextAction onClick={onDone}>Leave it as it is</TextAction>
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
