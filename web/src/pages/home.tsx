import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { api } from '../api/address.js';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { Action, TextAction } from '../kit/form/action.js';
import { Field } from '../kit/form/field.js';
import { Frame } from '../frame/frame.js';
import { Select } from '../kit/form/select.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';
import { useSession } from './session.js';

/** A person's courses, and the two ways to get one: make it, or join it with a code. */
export function Home() {
  const session = useSession();
  return (
    <Frame session={session}>
      <Title>Your courses</Title>
      {session.courses.length === 0 ? (
        <Empty title="You are in no course yet">
          Join one with the code or the invitation that your instructor gave you
          {session.makesCourses ? ', or make one of your own' : ''}.
        </Empty>
      ) : (
        <Box maxW="820px" mt={3}>
          <Ruled
            label="Your courses"
            headings={[{ text: 'course' }, { text: 'you are' }, { text: 'time zone' }]}
          >
            {session.courses.map((course) => (
              <tr key={course.id}>
                <Cell strong>
                  <Link to={`/courses/${course.id}/${course.role === 'instructor' ? 'data' : 'exercises'}`}>
                    {course.name}
                  </Link>
                </Cell>
                <Cell>{course.role}</Cell>
                <Cell quiet>{course.timeZone}</Cell>
              </tr>
            ))}
          </Ruled>
        </Box>
      )}
      <OwnInvitations />
      <Flex gap={16} wrap="wrap" mt={4}>
        <JoinCourse />
        {session.makesCourses ? <NewCourse /> : null}
      </Flex>
    </Frame>
  );
}

/** Invitations to the address of the account: accepted or declined by nobody else. */
function OwnInvitations() {
  const invitations = useAnswer(api('/api/v1/own-invitations'));
  const doing = useAction();
  const navigate = useNavigate();
  const accept = async (invitation: string) => {
    const { id } = await send('post', api('/api/v1/own-invitations/{invitation}', { invitation }));
    await navigate(`/courses/${id}`);
  };
  return (
    <Answer of={invitations} what="your invitations">
      {(list) =>
        list.length === 0 ? null : (
          <Box maxW="820px">
            <Subtitle>You are invited</Subtitle>
            {list.map(({ id, course, role, invitedBy }) => (
              <Flex key={id} gap={4} align="center" wrap="wrap" py={2}>
                <Text>
                  {invitedBy} invites you to <b>{course}</b> as {role}.
                </Text>
                <Action busy={doing.busy} onClick={() => doing.run(() => accept(id))}>
                  Join {course}
                </Action>
                <TextAction
                  label={`Decline ${course}`}
                  onClick={() =>
                    doing.run(() =>
                      send('delete', api('/api/v1/own-invitations/{invitation}', { invitation: id })),
                    )
                  }
                >
                  Decline
                </TextAction>
              </Flex>
            ))}
            <ErrorMessage>{doing.problem?.message}</ErrorMessage>
          </Box>
        )
      }
    </Answer>
  );
}

function JoinCourse() {
  const doing = useAction();
  const navigate = useNavigate();
  const { register, handleSubmit, formState } = useForm<Schemas['JoinCourse']>();
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      const { id } = await send('post', api('/api/v1/courses/join'), body);
      await navigate(`/courses/${id}`);
    }),
  );
  return (
    <Box w="340px">
      <Subtitle>Join a course</Subtitle>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Field
          label="Code"
          placeholder="such as 7KQ2M-X4HPA"
          problem={formState.errors.code?.message}
          {...register('code', { required: 'Give the code.' })}
        />
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Box mt={4}>
          <Action type="submit" plain busy={doing.busy}>
            Join
          </Action>
        </Box>
      </form>
    </Box>
  );
}

function NewCourse() {
  const doing = useAction();
  const navigate = useNavigate();
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const [timeZone, setTimeZone] = useState(here);
  const { register, handleSubmit, formState } = useForm<Pick<Schemas['NewCourse'], 'name'>>({
    defaultValues: { name: '' },
  });
  const submit = handleSubmit(({ name }) =>
    doing.run(async () => {
      const { id } = await send('post', api('/api/v1/courses'), { name, timeZone });
      await navigate(`/courses/${id}/data`);
    }),
  );
  return (
    <Box w="340px">
      <Subtitle>Make a course</Subtitle>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Field
          label="Name of the course"
          problem={formState.errors.name?.message}
          {...register('name', { required: 'Give the course a name.' })}
        />
        <Select
          label="Time zone of its deadlines"
          value={timeZone}
          choices={[...new Set([here, 'UTC', ...Intl.supportedValuesOf('timeZone')])]
            .sort()
            .map((zone) => ({ value: zone, text: zone }))}
          onChange={setTimeZone}
        />
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Box mt={4}>
          <Action type="submit" plain busy={doing.busy}>
            Make the course
          </Action>
        </Box>
      </form>
      <Text srOnly>You become its instructor.</Text>
    </Box>
  );
}
