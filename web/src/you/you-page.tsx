import { Box, Flex, Text } from '@chakra-ui/react';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { api } from '../api/address.js';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { Action, TextAction } from '../kit/form/action.js';
import { CopyLine } from '../kit/form/copy-line.js';
import { Field } from '../kit/form/field.js';
import { Frame } from '../frame/frame.js';
import { Select } from '../kit/form/select.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { useAction } from '../kit/form/use-action.js';
import { useSession } from '../pages/session.js';

/** A person's own sessions and tokens. */
export function YouPage() {
  const session = useSession();
  const doing = useAction();
  const tokens = useAnswer(api('/api/v1/tokens'));
  return (
    <Frame session={session}>
      <Title aside={session.person?.email}>{session.person?.name}</Title>
      <Subtitle>Tokens</Subtitle>
      <Text maxW="68ch" color="quiet" fontSize="14px">
        With a token a program acts for you, a notebook that hands in a file, say. It can do what you allow it
        here and nothing else. Keep it like a password.
      </Text>
      <Answer of={tokens} what="your tokens">
        {(list) => (list.length === 0 ? <Text mt={3}>You have none.</Text> : <TokenTable tokens={list} />)}
      </Answer>
      <NewToken />
      <ChangePassword />
      <Subtitle>Sessions</Subtitle>
      <Flex mt={2} gap={3} align="center" wrap="wrap">
        <ConfirmButton
          text="Sign out everywhere"
          consequence="Every browser that is signed in as you is then signed out, this one too."
          busy={doing.busy}
          onConfirm={() => doing.run(() => send('delete', api('/api/v1/sessions')))}
        />
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      <AccountEvents />
    </Frame>
  );
}

function ChangePassword() {
  const doing = useAction();
  const [done, setDone] = useState(false);
  const { register, handleSubmit, reset, formState } = useForm<Schemas['ChangePassword']>();
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      setDone(false);
      await send('put', api('/api/v1/password'), body);
      setDone(true);
      reset();
    }),
  );
  return (
    <Box maxW="640px">
      <Subtitle>Password</Subtitle>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Flex gap={6} wrap="wrap" align="start">
          <Field
            label="Current password"
            type="password"
            autoComplete="current-password"
            problem={formState.errors.old?.message}
            {...register('old', { required: 'Give the password that you have now.' })}
          />
          <Field
            label="New password"
            type="password"
            autoComplete="new-password"
            hint="At least 12 characters."
            problem={formState.errors.password?.message}
            {...register('password', { required: 'Choose a password.' })}
          />
        </Flex>
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Flex mt={4} gap={4} align="center">
          <Action type="submit" plain busy={doing.busy}>
            Change the password
          </Action>
          {done ? <Text role="status">Changed. Other browsers are signed out.</Text> : null}
        </Flex>
      </form>
    </Box>
  );
}

/** What happened to the account: links that others made for it, too. */
function AccountEvents() {
  const events = useAnswer(api('/api/v1/account-events'));
  return (
    <Answer of={events} what="what happened to your account">
      {(list) =>
        list.length === 0 ? null : (
          <>
            <Subtitle>What happened to your account</Subtitle>
            <Box as="ul" pl={4} fontSize="14px">
              {list.map(({ at, text }) => (
                <li key={at + text}>
                  <Text as="span" color="quiet">
                    {dateText(at)}
                  </Text>{' '}
                  {text}
                </li>
              ))}
            </Box>
          </>
        )
      }
    </Answer>
  );
}

const dateText = (iso: string) => DateTime.fromISO(iso, { locale: 'en-GB' }).toFormat('d LLL yyyy');

function TokenTable({ tokens }: { tokens: readonly Schemas['TokenInfo'][] }) {
  const doing = useAction();
  return (
    <Box mt={3} maxW="820px">
      <Ruled
        label="Your tokens"
        headings={[
          { text: 'name' },
          { text: 'may' },
          { text: 'until' },
          { text: 'last used' },
          { text: 'end it' },
        ]}
      >
        {tokens.map((token) => (
          <tr key={token.id}>
            <Cell strong>{token.name}</Cell>
            <Cell>{token.scopes.join(', ')}</Cell>
            <Cell>{dateText(token.expiresAt)}</Cell>
            <Cell quiet>{token.lastUsedAt === null ? 'never' : dateText(token.lastUsedAt)}</Cell>
            <Cell>
              <TextAction
                label={`Revoke ${token.name}`}
                onClick={() =>
                  doing.run(() => send('delete', api('/api/v1/tokens/{token}', { token: token.id })))
                }
              >
                Revoke
              </TextAction>
            </Cell>
          </tr>
        ))}
      </Ruled>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

const SCOPES = {
  'hand-in': ['hand-in'],
  both: ['read', 'hand-in'],
  read: ['read'],
} as const satisfies Record<string, readonly Schemas['TokenScope'][]>;

function NewToken() {
  const doing = useAction();
  const [made, setMade] = useState<string | null>(null);
  const [scope, setScope] = useState<keyof typeof SCOPES>('both');
  const { register, handleSubmit, reset, formState } = useForm<{ name: string; days: string }>({
    defaultValues: { name: '', days: '120' },
  });
  const submit = handleSubmit(({ name, days }) =>
    doing.run(async () => {
      const body = { name, days: Number(days), scopes: SCOPES[scope] };
      const { token } = await send('post', api('/api/v1/tokens'), body);
      setMade(token);
      reset();
    }),
  );
  return (
    <Box mt={5} maxW="640px">
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Flex gap={6} wrap="wrap" align="end">
          <Field
            label="Name of a new token"
            placeholder="notebook"
            problem={formState.errors.name?.message}
            {...register('name', { required: 'Give the token a name.' })}
          />
          <Select
            label="It may"
            value={scope}
            choices={[
              { value: 'both', text: 'read and hand in' },
              { value: 'hand-in', text: 'hand in only' },
              { value: 'read', text: 'read only' },
            ]}
            onChange={setScope}
          />
          <Field label="Days it lasts" inputMode="numeric" {...register('days')} />
        </Flex>
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Box mt={4}>
          <Action type="submit" plain busy={doing.busy}>
            Make the token
          </Action>
        </Box>
      </form>
      {made === null ? null : (
        <Box mt={4} role="status">
          <Text mb={2}>This is shown once. Copy it now:</Text>
          <CopyLine text={made} label="token" arrives />
        </Box>
      )}
    </Box>
  );
}
