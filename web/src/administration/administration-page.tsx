import { Box, Flex, Text } from '@chakra-ui/react';
import { api } from '../api/address.js';
import { send, useAnswer } from '../api/client.js';
import { momentText } from '../kit/table/format.js';
import { Frame } from '../frame/frame.js';
import { PlanChoice, PlanSentence } from '../kit/sentence/plan-sentence.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { useAction } from '../kit/form/use-action.js';
import { useSession } from '../pages/session.js';
import { People } from './people-section.js';

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** What the administrator of the server does about people and courses. */
export function AdministrationPage() {
  const session = useSession();
  return (
    <Frame session={session}>
      <Title aside="people, courses, and what was done about them">Administration</Title>
      <TwoPane
        left={
          <>
            <People />
            <Courses />
          </>
        }
        right={
          <>
            <Makers />
            <Log />
          </>
        }
      />
    </Frame>
  );
}

function Makers() {
  const makers = useAnswer(api('/api/v1/administration/course-makers'));
  const doing = useAction();
  return (
    <Box mt={2}>
      <Answer of={makers} what="who may make courses">
        {({ who }) => (
          <PlanSentence label="Who may make courses">
            Courses are made by{' '}
            <PlanChoice
              label="who may make courses"
              value={who}
              choices={[
                { value: 'invited', text: 'the people allowed here' },
                { value: 'anyone', text: 'anybody who has an account' },
              ]}
              onChange={(next) =>
                doing.run(() => send('put', api('/api/v1/administration/course-makers'), { who: next }))
              }
            />
            .
          </PlanSentence>
        )}
      </Answer>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

function Courses() {
  const courses = useAnswer(api('/api/v1/administration/courses'));
  const doing = useAction();
  return (
    <>
      <Subtitle>Courses</Subtitle>
      <Answer of={courses} what="the courses">
        {(list) => (
          <Ruled
            label="Courses of this server"
            headings={[
              { text: 'course' },
              { text: 'taught by' },
              { text: 'students', numeric: true },
              { text: 'end it' },
            ]}
          >
            {list.map((course) => (
              <tr key={course.id}>
                <Cell strong>{course.name}</Cell>
                <Cell>{course.instructors}</Cell>
                <Cell numeric>{course.students}</Cell>
                <Cell>
                  <Flex gap={3} align="center" wrap="wrap">
                    <ConfirmButton
                      text="Delete"
                      consequence="All data sets, exercises, submissions and marks of the course are deleted."
                      busy={doing.busy}
                      onConfirm={() =>
                        doing.run(() =>
                          send('delete', api('/api/v1/administration/courses/{id}', { id: course.id })),
                        )
                      }
                    />
                  </Flex>
                </Cell>
              </tr>
            ))}
          </Ruled>
        )}
      </Answer>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </>
  );
}

function Log() {
  const log = useAnswer(api('/api/v1/administration/log'));
  return (
    <>
      <Subtitle>Activity log of the server</Subtitle>
      <Answer of={log} what="the log">
        {(list) =>
          list.length === 0 ? (
            <Text color="quiet">Nothing yet.</Text>
          ) : (
            <Box as="ul" pl={4} fontSize="14px">
              {list.map(({ id, at, by, text }) => (
                <li key={id}>
                  <Text as="span" color="quiet">
                    {momentText(at, HERE)}
                  </Text>{' '}
                  <b>{by}</b> {text}
                </li>
              ))}
            </Box>
          )
        }
      </Answer>
    </>
  );
}
