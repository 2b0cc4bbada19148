import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { send, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { TextArea } from '../kit/form/text-area.js';
import { Subtitle } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { useAction } from '../kit/form/use-action.js';
import { TimesSentence } from './common/policy-sentence.js';
import { settingsIn } from './common/settings.js';

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
    path: '/exercises/{exercise}/amendment',
    end: 'Amend and notify students',
  },
  returned: {
    begin: 'Reopen',
    title: 'Reopen this exercise',
    consequence:
      'Students can hand in again until the deadline; marks follow when you return the exercise again. What the return showed them stays known: a question whose correct answers were shown stays closed, and scores on the final rows can guide the next file. For one student alone, set an own deadline in the list of submissions first, and leave this one in the past.',
    path: '/exercises/{exercise}/reopening',
    end: 'Reopen and notify students',
  },
} as const;

/** What an instructor may still do to an exercise that was released. */
export function Changes({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const { id: courseId } = useCourse();
  const navigate = useNavigate();
  const doing = useAction();
  const [amending, setAmending] = useState(false);
  const duplicate = async () => {
    const { title, ...settings } = settingsIn(exercise);
    const { id } = await send('post', address('/exercises'), {
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
              consequence="It is a draft again and students no longer see it. Once something was handed in, it can only be amended."
              busy={doing.busy}
              onConfirm={() =>
                doing.run(() =>
                  send('post', address('/exercises/{exercise}/withdraw', { exercise: exercise.id })),
                )
              }
            />
          </>
        ) : null}
        <Link to="correction" style={{ fontWeight: 700 }}>
          {CORRECTION[exercise.correction ?? 'none']}
        </Link>
        <TextAction onClick={() => doing.run(duplicate)}>Duplicate as a draft</TextAction>
        <a
          href={address('/exercises/{exercise}/file', { exercise: exercise.id })}
          style={{ fontWeight: 700 }}
        >
          Exercise as JSON
        </a>
        <a
          href={address('/exercises/{exercise}/keys', { exercise: exercise.id })}
          style={{ fontWeight: 700 }}
        >
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
              await send('put', address(words.path, { exercise: exercise.id }), amendment);
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
