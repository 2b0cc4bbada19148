import { Box, Text } from '@chakra-ui/react';
import { useAnswers } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { momentText } from '../kit/format.js';
import { Answer } from '../kit/states.js';
import { Cell, Ruled } from '../kit/table.js';
import { Title } from '../kit/title.js';

/** Who is in the course, and the code with which students join. */
export function PeoplePage() {
  const { joinCode, timeZone } = useCourse();
  const address = useCourseApi();
  const people = useAnswers<'Member'>(address('people'));
  return (
    <>
      <Title>People</Title>
      <Text mt={3} maxW="68ch">
        Students make an account and join with the code{' '}
        <Text as="b" fontFamily="mono" data-join-code={joinCode}>
          {joinCode}
        </Text>
        .
      </Text>
      <Answer of={people} what="the people">
        {(list) => (
          <Box mt={4}>
            <Ruled
              label="People"
              headings={[{ text: 'name' }, { text: 'address' }, { text: 'role' }, { text: 'joined' }]}
            >
              {list.map((person) => (
                <tr key={person.id}>
                  <Cell strong>{person.name}</Cell>
                  <Cell quiet>{person.email}</Cell>
                  <Cell>{person.role}</Cell>
                  <Cell quiet>{momentText(person.joinedAt, timeZone)}</Cell>
                </tr>
              ))}
            </Ruled>
          </Box>
        )}
      </Answer>
    </>
  );
}
