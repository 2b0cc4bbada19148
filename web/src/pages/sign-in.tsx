import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { api, send, type Schemas } from '../api/client.js';
import { Action, TextAction } from '../kit/action.js';
import { Field } from '../kit/field.js';
import { Complaint } from '../kit/states.js';
import { Title } from '../kit/title.js';
import { useDoing } from '../kit/use-doing.js';

export function SignInPage() {
  const [isNew, setNew] = useState(false);
  const doing = useDoing();
  const { register, handleSubmit, formState } = useForm<Schemas['SignUp']>();
  const { errors } = formState;
  const submit = handleSubmit(({ email, password, name }) =>
    doing.run(() =>
      isNew
        ? send('POST', api('people'), { email, password, name })
        : send('POST', api('session'), { email, password }),
    ),
  );
  return (
    <Flex gap={16} wrap="wrap">
      <Box w="360px">
        <Title>{isNew ? 'New account' : 'Sign in'}</Title>
        <form onSubmit={(event) => void submit(event)} noValidate>
          {isNew ? (
            <Field
              label="Name"
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
          <Complaint>{doing.problem?.message}</Complaint>
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
              {isNew ? 'I have an account' : 'I am new here'}
            </TextAction>
          </Flex>
        </form>
      </Box>
      <Text flex="1" minW="280px" maxW="52ch" pt={6} fontFamily="heading" fontSize="18px" color="quiet">
        Rows fall through a sieve. Some are removed while cleaning, the rest land in a training set, a
        validation set or a held-out set, and only the held-out rows can tell whether a model has learned
        anything.
      </Text>
    </Flex>
  );
}
