import { Box, Flex, Text } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { useParams } from 'react-router';
import { api } from '../api/address.js';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { Action } from '../kit/form/action.js';
import { Field } from '../kit/form/field.js';
import { Frame } from '../frame/frame.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';
import { SignInForm } from './sign-in.js';

/** Where the link of an invitation leads: the person accepts with their account, or makes one. */
export function InvitationPage() {
  const { secret = '' } = useParams();
  const session = useAnswer(api('/api/v1/session'));
  const invitation = useAnswer(api('/api/v1/invitations/{secret}', { secret }));
  return (
    <Answer of={session} what="your session">
      {(own) => (
        <Frame session={own}>
          <Answer of={invitation} what="the invitation">
            {(shown) => (
              <>
                <Title>{shown.course}</Title>
                <Text mt={2} maxW="62ch">
                  {shown.invitedBy} invites {shown.name} ({shown.email}) to this course as {shown.role}.
                  Nobody joins it for you: accept it here, or leave the page.
                </Text>
                {own.person ? (
                  <Accept secret={secret} person={own.person} courseId={shown.courseId} />
                ) : (
                  <Flex gap={16} wrap="wrap" mt={2}>
                    <Claim secret={secret} />
                    <SignInForm
                      heading={(isNew) => (
                        <Subtitle>{isNew ? 'New account, another address' : 'I have an account'}</Subtitle>
                      )}
                      newHere="Make one with another address"
                    />
                  </Flex>
                )}
              </>
            )}
          </Answer>
        </Frame>
      )}
    </Answer>
  );
}

function Accept({
  secret,
  person,
  courseId,
}: {
  secret: string;
  person: NonNullable<Schemas['SessionInfo']['person']>;
  courseId: string;
}) {
  const doing = useAction();
  const accept = async () => {
    await send('post', api('/api/v1/invitations/{secret}/accept', { secret }));
    location.assign(`/courses/${courseId}`);
  };
  return (
    <Box mt={5}>
      <Action busy={doing.busy} onClick={() => doing.run(accept)}>
        Join as {person.name}
      </Action>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

/** For somebody who has no account yet: the invitation has made one, which this password claims. */
function Claim({ secret }: { secret: string }) {
  const doing = useAction();
  const { register, handleSubmit, formState } = useForm<Schemas['SetPassword']>();
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      await send('post', api('/api/v1/invitations/{secret}/claim', { secret }), body);
      location.assign('/');
    }),
  );
  return (
    <Box w="360px">
      <Subtitle>I am new here</Subtitle>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Field
          label="Choose a password"
          type="password"
          autoComplete="new-password"
          hint="At least 12 characters."
          problem={formState.errors.password?.message}
          {...register('password', { required: 'Choose a password.' })}
        />
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Box mt={4}>
          <Action type="submit" plain busy={doing.busy}>
            Make my account and join
          </Action>
        </Box>
      </form>
    </Box>
  );
}
