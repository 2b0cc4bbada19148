import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Fragment } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { Subtitle } from '../kit/layout/title.js';
import { Cell, Ruled } from '../kit/table/table.js';

/** Students that a mistake names before the others are counted. */
const NAMED = 12;

/** Known mistakes in the answers to a question: how many students made each, and who. */
export function ClassSlips({
  slips,
  question,
  to,
}: {
  slips: Schemas['ClassView']['slips'];
  question: string;
  /** The address of a submission. */
  to: (submission: string) => string;
}) {
  const own = slips.filter((slip) => slip.question === question);
  if (own.length === 0) return null;
  return (
    <>
      <Subtitle>Known mistakes</Subtitle>
      <Ruled
        label="Known mistakes"
        headings={[{ text: 'mistake' }, { text: 'students', numeric: true }, { text: 'made by' }]}
      >
        {own.map(({ id, title, students }) => (
          <tr key={id} data-slip={id}>
            <Cell strong>{title}</Cell>
            <Cell numeric>{students.length}</Cell>
            <Cell>
              {students.slice(0, NAMED).map((student, i) => (
                <Fragment key={student.id}>
                  {i === 0 ? '' : ', '}
                  <Link to={to(student.submission)}>{student.name}</Link>
                </Fragment>
              ))}
              {students.length > NAMED ? (
                <Text as="span" color="quiet">
                  {` and ${counted(students.length - NAMED, 'other')}`}
                </Text>
              ) : null}
            </Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
