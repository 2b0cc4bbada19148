import { Box, chakra, Flex, Heading, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action } from '../kit/form/action.js';
import { Field } from '../kit/form/field.js';
import { CopyLine } from '../kit/form/copy-line.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { useAction } from '../kit/form/use-action.js';
import { InvitePerson } from './invitations.js';

/** What an instructor may do for one person: another role, a link for a new password, an end of the membership. */
export function ChosenPerson({ person }: { person: Schemas['Member'] }) {
  const address = useCourseApi();
  const doing = useAction();
  const [link, setLink] = useState<string | null>(null);
  const at = { person: person.id };
  const makeLink = async () => {
    const { path } = await send('post', address('/people/{person}/password-link', at));
    setLink(`${location.origin}${path}`);
  };
  const remove = (work: 'keep' | 'delete') =>
    doing.run(() => send('delete', address('/people/{person}', at, { work })));
  return (
    <Box mt={2}>
      <Heading as="h2" fontFamily="heading" fontSize="19px" fontWeight={650}>
        {person.name}
      </Heading>
      <Text fontSize="13.5px" color="quiet" overflowWrap="anywhere">
        {person.email}
      </Text>
      {person.role === 'instructor' ? (
        <Text mt={3} color="quiet">
          Instructors manage themselves: nothing is changed about them here.
        </Text>
      ) : (
        <>
          {person.role === 'assistant' ? (
            <Box mt={4}>
              <Action
                plain
                busy={doing.busy}
                onClick={() =>
                  doing.run(() => send('put', address('/people/{person}', at), { role: 'student' }))
                }
              >
                Make a student again
              </Action>
            </Box>
          ) : (
            <>
              <Text mt={4} fontSize="14px" color="quiet">
                Somebody joins the staff by accepting an invitation that you hand to them, never by an address
                alone.
              </Text>
              <InvitePerson student={person} />
            </>
          )}
          {person.role === 'student' ? <Section person={person} /> : null}
          <Text mt={5} fontSize="14px" color="quiet">
            {person.mayReset
              ? `A one-time link lets ${person.name} set a new password within a day. Every session and token of theirs ends then, and they can see that you made it. Hand it to nobody else: the person who has it is ${person.name}.`
              : `${person.name} is not in your courses alone: only the administrator of this server makes a link for a new password.`}
          </Text>
          {person.mayReset ? (
            <Flex mt={2} gap={3} direction="column" align="start">
              <Action plain busy={doing.busy} onClick={() => doing.run(makeLink)}>
                Make a link for a new password
              </Action>
              {link === null ? null : <CopyLine text={link} label="link for a new password" arrives />}
            </Flex>
          ) : null}
          <Flex mt={6} gap={3} align="center" wrap="wrap">
            <ConfirmButton
              text="Remove from the course"
              consequence="What was handed in is saved. The person no longer sees the course, and comes back by an invitation only."
              busy={doing.busy}
              onConfirm={() => remove('keep')}
            />
            <ConfirmButton
              text="Remove with all work"
              consequence="What was handed in, its marks and receipts are deleted too."
              busy={doing.busy}
              onConfirm={() => remove('delete')}
            />
          </Flex>
        </>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

/** The part of the course in which a student is taught. */
function Section({ person }: { person: Schemas['Member'] }) {
  const address = useCourseApi();
  const doing = useAction();
  const [section, setSection] = useState(person.section ?? '');
  const next = section.trim();
  return (
    <chakra.form
      mt={4}
      onSubmit={(event) => {
        event.preventDefault();
        doing.run(() =>
          send('put', address('/people/{person}/section', { person: person.id }), {
            section: next === '' ? null : next,
          }),
        );
      }}
    >
      <Field
        label="Section"
        hint="Left empty: none. The gradebook can be narrowed to a section."
        maxLength={60}
        value={section}
        onChange={(event) => setSection(event.target.value)}
      />
      {next === (person.section ?? '') ? null : (
        <Box mt={2}>
          <Action type="submit" plain busy={doing.busy}>
            Set the section
          </Action>
        </Box>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </chakra.form>
  );
}
