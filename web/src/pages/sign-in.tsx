import { Box, Flex, Text } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { useLocation, useNavigate } from 'react-router';
import { api } from '../api/address.js';
import { send, type Schemas } from '../api/client.js';
import { Action, TextAction } from '../kit/form/action.js';
import { Field } from '../kit/form/field.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Title } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';

export function SignInPage() {
  return (
    <Flex gap={16} wrap="wrap">
      <SignInForm
        heading={(isNew) => <Title>{isNew ? 'New account' : 'Sign in'}</Title>}
        newHere="I am new here"
      />
      <Text flex="1" minW="280px" maxW="52ch" pt={6} fontFamily="heading" fontSize="18px" color="quiet">
        Rows fall through a sieve. Some are removed while cleaning, the rest land in a training set, a
        validation set or a held-out set, and only the held-out rows can show whether a model has learned
        anything.
      </Text>
    </Flex>
  );
}

/** Signs somebody in, or makes an account for them; the page then shows what is theirs. */
export function SignInForm({
  heading,
  newHere,
}: {
  heading: (isNew: boolean) => ReactNode;
  /** What leads to a new account. */
  newHere: string;
}) {
  const [isNew, setNew] = useState(false);
  const doing = useAction();
  const { register, handleSubmit, formState } = useForm<Schemas['SignUp']>();
  const { errors } = formState;
  const navigate = useNavigate();
  const location = useLocation();
  const submit = handleSubmit(({ email, password, name }) =>
    doing.run(async () => {
      if (isNew) await send('post', api('/api/v1/people'), { email, password, name });
      else await send('post', api('/api/v1/session'), { email, password });
      // The page that was asked for begins here, at its title.
      await navigate(location, { replace: true });
    }),
  );
  return (
    <Box w="360px">
      {heading(isNew)}
      <form onSubmit={(event) => void submit(event)} noValidate>
        {isNew ? (
          <Field
            label="Name"
            // It appears where somebody asked for it.
            autoFocus
            autoComplete="name"
            problem={errors.name?.message}
            {...register('name', { required: 'Give your name.' })}
          />
        ) : null}
        <Field
          label="Address"
          type="email"
          autoComplete="username"
          problem={errors.email?.message}
          {...register('email', { required: 'Give your address.' })}
        />
        <Field
          label="Password"
          type="password"
          autoComplete={isNew ? 'new-password' : 'current-password'}
          hint={isNew ? 'At least 12 characters.' : ''}
          problem={errors.password?.message}
          {...register('password', { required: 'Give your password.' })}
        />
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Flex mt={5} gap={5} align="center">
          <Action type="submit" busy={doing.busy}>
            {isNew ? 'Make the account' : 'Sign in'}
          </Action>
          <TextAction
            onClick={() => {
              doing.clear();
              setNew(!isNew);
            }}
          >
            {isNew ? 'I have an account' : newHere}
          </TextAction>
        </Flex>
      </form>
    </Box>
  );
}
