import { Box, Flex } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api } from '../api/address.js';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { TextAction } from '../kit/form/action.js';
import { CopyLine } from '../kit/form/copy-line.js';
import { Field } from '../kit/form/field.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { useAction } from '../kit/form/use-action.js';

export function People() {
  const [search, setSearch] = useSearchParams();
  const asked = search.get('search') ?? '';
  const people = useAnswer(api('/api/v1/administration/people', {}, { search: asked }));
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
  const own = api('/api/v1/administration/people/{person}', { person: person.id });
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
                onClick={() => doing.run(() => send('put', own, { makesCourses: !person.makesCourses }))}
              >
                {person.makesCourses ? 'No longer let them make courses' : 'Let them make courses'}
              </TextAction>
              <TextAction
                onClick={() =>
                  doing.run(async () => {
                    const { path } = await send(
                      'post',
                      api('/api/v1/administration/people/{person}/password-link', { person: person.id }),
                    );
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
                onConfirm={() => doing.run(() => send('delete', own))}
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
