import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { CopyLine } from '../kit/form/copy-line.js';
import { Field } from '../kit/form/field.js';
import { momentText } from '../kit/table/format.js';
import { Select } from '../kit/form/select.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Subtitle } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';

const ROLES = [
  { value: 'student', text: 'student' },
  { value: 'assistant', text: 'assistant: reviews submissions' },
  { value: 'instructor', text: 'instructor: may do everything' },
] as const;

/**
 * Invites one person. The link goes from hand to hand, since there is no mail server.
 *
 * @param student who is in the course already, and is invited to its staff
 */
export function InvitePerson({
  student = null,
}: {
  student?: Pick<Schemas['Member'], 'email' | 'name'> | null;
}) {
  const address = useCourseApi();
  const doing = useAction();
  const [role, setRole] = useState<Schemas['CourseRole']>(student ? 'assistant' : 'student');
  const [link, setLink] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm<{ email: string; name: string }>({
    defaultValues: { email: student?.email ?? '', name: student?.name ?? '' },
  });
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      const { path } = await send('post', address('/invitations'), { ...body, role });
      setLink(`${location.origin}${path}`);
    }),
  );
  return (
    <Box>
      <Subtitle>{student ? 'Invite to the staff' : 'Invite a person'}</Subtitle>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Field
          label="Name"
          problem={formState.errors.name?.message}
          {...register('name', { required: 'Give the name.' })}
        />
        <Field
          label="Address"
          type="email"
          problem={formState.errors.email?.message}
          {...register('email', { required: 'Give the address.' })}
        />
        <Select label="As" value={role} choices={student ? ROLES.slice(1) : ROLES} onChange={setRole} />
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Box mt={3}>
          <Action type="submit" plain busy={doing.busy}>
            Make an invitation
          </Action>
        </Box>
      </form>
      {link === null ? null : (
        <Box mt={3} role="status">
          <Text fontSize="14px" color="quiet" mb={2}>
            Hand this link to the person, and to nobody else. It is shown once and works for sixty days.
          </Text>
          <CopyLine text={link} label="link of the invitation" arrives />
        </Box>
      )}
    </Box>
  );
}

/** Who is invited and has not accepted yet. */
export function PendingInvitations() {
  const address = useCourseApi();
  const { timeZone } = useCourse();
  const invitations = useAnswer(address('/invitations'));
  const doing = useAction();
  const [link, setLink] = useState<{ id: string; text: string } | null>(null);
  const renew = async (id: string) => {
    const { path } = await send('post', address('/invitations/{invitation}/link', { invitation: id }));
    setLink({ id, text: `${location.origin}${path}` });
  };
  return (
    <Answer of={invitations} what="the invitations">
      {(list) =>
        list.length === 0 ? null : (
          <Box>
            <Subtitle>Invited, not joined yet</Subtitle>
            <Box as="ul" listStyleType="none" aria-label="Invitations">
              {list.map((one) => (
                <Box as="li" key={one.id} py={2} borderBottom="1px solid" borderColor="rule">
                  <Text>
                    {one.name}{' '}
                    <Text as="span" color="quiet" overflowWrap="anywhere">
                      {one.email}, as {one.role}, until {momentText(one.expiresAt, timeZone)}
                    </Text>
                  </Text>
                  <Flex gap={4} fontSize="14px" wrap="wrap">
                    <TextAction
                      label={`New link for ${one.name}`}
                      onClick={() => doing.run(() => renew(one.id))}
                    >
                      New link
                    </TextAction>
                    <TextAction
                      label={`Revoke the invitation of ${one.name}`}
                      onClick={() =>
                        doing.run(() =>
                          send('delete', address('/invitations/{invitation}', { invitation: one.id })),
                        )
                      }
                    >
                      Revoke
                    </TextAction>
                  </Flex>
                  {link?.id === one.id ? (
                    <CopyLine text={link.text} label="link of the invitation" arrives />
                  ) : null}
                </Box>
              ))}
            </Box>
            <ErrorMessage>{doing.problem?.message}</ErrorMessage>
          </Box>
        )
      }
    </Answer>
  );
}
