import { Box, Text } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { useParams } from 'react-router';
import { api } from '../api/address.js';
import { send, useAnswer } from '../api/client.js';
import { Action } from '../kit/form/action.js';
import { Field } from '../kit/form/field.js';
import { Frame } from '../frame/frame.js';
import { NOBODY } from './session.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Title } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';

/** Where a one-time link leads: its person sets a password and is signed in. */
export function PasswordPage() {
  const { secret = '' } = useParams();
  const link = useAnswer(api('/api/v1/password-links/{secret}', { secret }));
  const doing = useAction();
  const { register, handleSubmit, formState } = useForm<{ password: string }>();
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      await send('post', api('/api/v1/password-links/{secret}', { secret }), body);
      location.assign('/');
    }),
  );
  return (
    <Frame session={NOBODY}>
      <Answer of={link} what="your link">
        {({ name, email }) => (
          <Box w="360px">
            <Title>A new password</Title>
            <Text mt={2}>
              For {name}, {email}. This link works once.
            </Text>
            <form onSubmit={(event) => void submit(event)} noValidate>
              <Field
                label="Password"
                type="password"
                autoComplete="new-password"
                hint="At least 12 characters."
                problem={formState.errors.password?.message}
                {...register('password', { required: 'Choose a password.' })}
              />
              <ErrorMessage>{doing.problem?.message}</ErrorMessage>
              <Box mt={5}>
                <Action type="submit" busy={doing.busy}>
                  Set it and sign in
                </Action>
              </Box>
            </form>
          </Box>
        )}
      </Answer>
    </Frame>
  );
}
