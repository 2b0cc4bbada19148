import { Box, Flex, Text } from '@chakra-ui/react';
import { useState, type ReactNode, type SubmitEvent } from 'react';
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

/** What is said where a line was left empty. */
const MISSING = {
  name: 'Give your name.',
  email: 'Give your address.',
  password: 'Give your password.',
};
type Name = keyof typeof MISSING;
const NAMES = Object.keys(MISSING) as Name[];

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
  const [missing, setMissing] = useState<readonly Name[]>([]);
  const navigate = useNavigate();
  const location = useLocation();
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const given = new FormData(form);
    const typed = (name: Name) => {
      const value = given.get(name);
      return typeof value === 'string' ? value : '';
    };
    const empty = NAMES.filter((name) => given.has(name) && typed(name) === '');
    setMissing(empty);
    if (empty[0]) form.querySelector<HTMLInputElement>(`[name="${empty[0]}"]`)?.focus();
    else doing.run(() => enter({ name: typed('name'), email: typed('email'), password: typed('password') }));
  };
  const enter = async ({ email, password, name }: Schemas['SignUp']) => {
    if (isNew) await send('post', api('/api/v1/people'), { email, password, name });
    else await send('post', api('/api/v1/session'), { email, password });
    // The page that was asked for begins here, at its title.
    await navigate(location, { replace: true });
  };
  const about = (name: Name) => ({
    name,
    problem: missing.includes(name) ? MISSING[name] : undefined,
  });
  return (
    <Box w="360px">
      {heading(isNew)}
      <form onSubmit={submit} noValidate>
        {isNew ? (
          <Field
            label="Name"
            // It appears where somebody asked for it.
            autoFocus
            autoComplete="name"
            {...about('name')}
          />
        ) : null}
        <Field label="Address" type="email" autoComplete="username" {...about('email')} />
        <Field
          label="Password"
          type="password"
          autoComplete={isNew ? 'new-password' : 'current-password'}
          hint={isNew ? 'At least 12 characters.' : ''}
          {...about('password')}
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
