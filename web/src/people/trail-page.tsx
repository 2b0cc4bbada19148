import { Box, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action } from '../kit/form/action.js';
import { momentText } from '../kit/table/format.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';

/** What was done in the course, by whom, the latest first. Nobody can change it. */
export function TrailPage() {
  const address = useCourseApi();
  const [before, setBefore] = useState<string | null>(null);
  const page = useAnswer(address('/audit', {}, before === null ? {} : { before }));
  return (
    <>
      <Title aside="nobody can change it, the program included">Activity log</Title>
      <Answer of={page} what="the activity log">
        {({ events, next }) =>
          events.length === 0 ? (
            <Empty title="Nothing yet">Every change to the course is recorded here.</Empty>
          ) : (
            <Box mt={4}>
              <Events events={events} />
              <Box mt={4}>
                {before === null ? null : (
                  <Action plain onClick={() => setBefore(null)}>
                    To the latest
                  </Action>
                )}{' '}
                {next === null ? null : (
                  <Action plain onClick={() => setBefore(next)}>
                    Earlier
                  </Action>
                )}
              </Box>
            </Box>
          )
        }
      </Answer>
    </>
  );
}

function Events({ events }: { events: readonly Schemas['AuditEntry'][] }) {
  const { timeZone } = useCourse();
  return (
    <Ruled label="What was done" headings={[{ text: 'when' }, { text: 'who' }, { text: 'what' }]}>
      {events.map((event) => (
        <tr key={event.id}>
          <Cell quiet nowrap>
            {momentText(event.at, timeZone)}
          </Cell>
          <Cell strong>{event.person}</Cell>
          <Cell>
            {event.text} {event.subject}
            {Object.entries(event.detail).map(([name, value]) => (
              <Text as="span" key={name} color="quiet">
                {' '}
                · {name} {value}
              </Text>
            ))}
          </Cell>
        </tr>
      ))}
    </Ruled>
  );
}
