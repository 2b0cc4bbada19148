import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, send, useAnswer, useAnswers, type Schemas } from '../api/client.js';
import { TextAction } from '../kit/form/action.js';
import { CopyLine } from '../kit/form/copy-line.js';
import { Field } from '../kit/form/field.js';
import { momentText } from '../kit/table/format.js';
import { Frame } from '../frame/frame.js';
import { PlanChoice, PlanSentence } from '../kit/sentence/plan-sentence.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { useAction } from '../kit/form/use-action.js';
import { useSession } from '../pages/session.js';

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
  const makers = useAnswer<'CourseMakers'>(api('administration', 'course-makers'));
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
                doing.run(() => send('PUT', api('administration', 'course-makers'), { who: next }))
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

function People() {
  const [search, setSearch] = useSearchParams();
  const asked = search.get('search') ?? '';
  const people = useAnswers<'AdministeredPerson'>(
    `${api('administration', 'people')}?search=${encodeURIComponent(asked)}`,
  );
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <>
      <Subtitle>People</Subtitle>
      <Box w="320px">
        <Field
          label="Name or address"
          defaultValue={asked}
          onChange={(event) =>
            setSearch(event.target.value === '' ? {} : { search: event.target.value }, { replace: true })
          }
        />
      </Box>
      <Answer of={people} what="the people">
        {(list) =>
          list.length === 0 ? (
            <Empty title="Nobody">No name and no address holds “{asked}”.</Empty>
          ) : (
            <Box mt={3}>
              <Ruled
                label="People of this server"
                headings={[
                  { text: 'name' },
                  { text: 'address' },
                  { text: 'courses', numeric: true },
                  { text: 'may' },
                  { text: 'change' },
                ]}
              >
                {list.map((person) => (
                  <Person
                    key={person.id}
                    person={person}
                    isChosen={person.id === chosen}
                    onChoose={() => setChosen(person.id === chosen ? null : person.id)}
                  />
                ))}
              </Ruled>
            </Box>
          )
        }
      </Answer>
    </>
  );
}

function Person({
  person,
  isChosen,
  onChoose,
}: {
  person: Schemas['AdministeredPerson'];
  isChosen: boolean;
  onChoose: () => void;
}) {
  const doing = useAction();
  const [link, setLink] = useState<string | null>(null);
  const at = (...parts: string[]) => api('administration', 'people', person.id, ...parts);
  const may = person.administers ? 'administer' : person.makesCourses ? 'make courses' : '';
  return (
    <>
      <tr>
        <Cell strong>{person.name}</Cell>
        <Cell quiet>{person.email}</Cell>
        <Cell numeric>{person.courses}</Cell>
        <Cell>{may}</Cell>
        <Cell>
          <TextAction label={`Change ${person.name}`} onClick={onChoose}>
            {isChosen ? 'Close' : 'Change'}
          </TextAction>
        </Cell>
      </tr>
      {isChosen ? (
        <tr>
          <td colSpan={5}>
            <Flex py={3} gap={4} align="center" wrap="wrap">
              <TextAction
                onClick={() => doing.run(() => send('PUT', at(), { makesCourses: !person.makesCourses }))}
              >
                {person.makesCourses ? 'No longer let them make courses' : 'Let them make courses'}
              </TextAction>
              <TextAction
                onClick={() =>
                  doing.run(async () => {
                    const { path } = await send<Schemas['MadeLink']>('POST', at('password-link'));
                    setLink(`${location.origin}${path}`);
                  })
                }
              >
                Make a link for a new password
              </TextAction>
              <ConfirmButton
                text="Delete the person"
                consequence={`The account, ${counted(person.submissions, 'submission')} and ${counted(person.courses, 'membership')} are deleted. What they did as staff stays, without their name.`}
                busy={doing.busy}
                onConfirm={() => doing.run(() => send('DELETE', at()))}
              />
              {link === null ? null : <CopyLine text={link} label="link for a new password" arrives />}
            </Flex>
            <ErrorMessage>{doing.problem?.message}</ErrorMessage>
          </td>
        </tr>
      ) : null}
    </>
  );
}

function Courses() {
  const courses = useAnswers<'AdministeredCourse'>(api('administration', 'courses'));
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
                        doing.run(() => send('DELETE', api('administration', 'courses', course.id)))
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
  const log = useAnswers<'ServerLog'>(api('administration', 'log'));
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
