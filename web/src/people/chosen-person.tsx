import { Box, Flex, Heading, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action } from '../kit/action.js';
import { CopyLine } from '../kit/copy-line.js';
import { Select } from '../kit/select.js';
import { Complaint } from '../kit/states.js';
import { TwiceAction } from '../kit/twice-action.js';
import { useDoing } from '../kit/use-doing.js';

/** What an instructor may do for one person: another role, a link for a new password, an end of the membership. */
export function ChosenPerson({ person }: { person: Schemas['Member'] }) {
  const address = useCourseApi();
  const doing = useDoing();
  const [link, setLink] = useState<string | null>(null);
  const at = (...parts: string[]) => address('people', person.id, ...parts);
  const makeLink = async () => {
    const { path } = await send<Schemas['MadeLink']>('POST', at('password-link'));
    setLink(`${location.origin}${path}`);
  };
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
          <Select
            label="Role in this course"
            value={person.role}
            choices={[
              { value: 'student', text: 'student' },
              { value: 'assistant', text: 'assistant: sees submissions and the gradebook' },
            ]}
            disabled={doing.busy}
            onChange={(role) => doing.run(() => send('PUT', at(), { role }))}
          />
          <Text mt={5} fontSize="14px" color="quiet">
            A one-time link lets {person.name} set a new password within seven days. It ends every session and
            token of theirs when it is used. Hand it to nobody else: whoever has it is {person.name}.
          </Text>
          <Flex mt={2} gap={3} direction="column" align="start">
            <Action plain busy={doing.busy} onClick={() => doing.run(makeLink)}>
              Make a one-time link
            </Action>
            {link === null ? null : <CopyLine text={link} label="one-time link" />}
          </Flex>
          <Flex mt={6} gap={3} align="center" wrap="wrap">
            <TwiceAction
              text="Remove from the course"
              consequence="What was handed in is kept; the person no longer sees the course."
              busy={doing.busy}
              onConfirm={() => doing.run(() => send('DELETE', at()))}
            />
          </Flex>
        </>
      )}
      <Complaint>{doing.problem?.message}</Complaint>
    </Box>
  );
}
