import { Box, chakra, Text } from '@chakra-ui/react';
import { Link, useSearchParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { momentText } from '../kit/table/format.js';
import { Answer } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { useAction } from '../kit/form/use-action.js';
import { ChosenPerson } from './chosen-person.js';
import { DeleteCourse } from './delete-course.js';
import { InvitePerson, PendingInvitations } from './invitations.js';
import { Roster } from './roster.js';

/** How somebody joined: an address is only what somebody said it is, a link was handed to them. */
const JOINED: Readonly<Record<Schemas['JoinedBy'], string>> = {
  code: 'by code',
  invitation: 'by link',
  address: 'by address',
  maker: 'made it',
};

/** Who is in the course, how others get in, and what may be done for one of them. */
export function PeoplePage() {
  const address = useCourseApi();
  const people = useAnswer(address('/people'));
  const [search, setSearch] = useSearchParams();
  return (
    <>
      <Title aside={<Link to="trail">activity log</Link>}>People</Title>
      <Answer of={people} what="the people">
        {(list) => {
          const chosen = list.find((person) => person.id === search.get('person'));
          return (
            <TwoPane
              left={
                <Members
                  people={list}
                  chosen={chosen?.id ?? null}
                  onChoose={(id) => setSearch(id === chosen?.id ? {} : { person: id }, { replace: true })}
                />
              }
              right={
                chosen ? (
                  <ChosenPerson key={chosen.id} person={chosen} />
                ) : (
                  <>
                    <JoinCode />
                    <InvitePerson />
                    <Roster />
                    <PendingInvitations />
                    <DeleteCourse />
                  </>
                )
              }
            />
          );
        }}
      </Answer>
    </>
  );
}

function Members({
  people,
  chosen,
  onChoose,
}: {
  people: readonly Schemas['Member'][];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const { timeZone } = useCourse();
  return (
    <Ruled
      label="People"
      headings={[{ text: 'name' }, { text: 'address' }, { text: 'role' }, { text: 'joined' }]}
    >
      {people.map((person) => (
        <chakra.tr
          key={person.id}
          bg={person.id === chosen ? 'sheet' : undefined}
          boxShadow={person.id === chosen ? 'inset 3px 0 0 var(--chakra-colors-accent)' : undefined}
        >
          <Cell strong>
            <chakra.button
              type="button"
              textAlign="left"
              fontWeight={700}
              color="accent"
              cursor="pointer"
              pl={person.id === chosen ? 3 : 0}
              aria-pressed={person.id === chosen}
              onClick={() => onChoose(person.id)}
            >
              {person.name}
            </chakra.button>
          </Cell>
          <Cell quiet>{person.email}</Cell>
          <Cell>{person.role}</Cell>
          <Cell quiet nowrap>
            {momentText(person.joinedAt, timeZone)}, {JOINED[person.joinedBy]}
          </Cell>
        </chakra.tr>
      ))}
    </Ruled>
  );
}

function JoinCode() {
  const { joinCode, joinCodeExpiresAt, timeZone } = useCourse();
  const address = useCourseApi();
  const doing = useAction();
  return (
    <Box mt={2}>
      <Text>
        Students make an account and join with the code{' '}
        <Text as="b" fontFamily="mono" whiteSpace="nowrap" data-join-code={joinCode}>
          {joinCode}
        </Text>
        {joinCodeExpiresAt === null ? '' : `, which works until ${momentText(joinCodeExpiresAt, timeZone)}`}.
      </Text>
      <Box mt={3}>
        <ConfirmButton
          text="Renew the code"
          consequence="The old code then stops working. Students who have joined stay."
          busy={doing.busy}
          onConfirm={() => doing.run(() => send('post', address('/join-code')))}
        />
      </Box>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
