import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Fragment } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { Subtitle } from '../kit/layout/title.js';
import { Cell, Ruled } from '../kit/table/table.js';

/** Students that a line names before the others are counted. */
const NAMED = 12;

type View = Pick<Schemas['ClassView'], 'lines' | 'submissions'>;

/** Something that was found in the answers to a question: how many students have it, and who. */
export function FoundInAnswers({
  title,
  what,
  found,
  view,
  to,
}: {
  title: string;
  /** Heading of the first column. */
  what: string;
  found: readonly { readonly id: string; readonly text: string; readonly answers: readonly string[] }[];
  view: View;
  /** The address of a submission. */
  to: (submission: string) => string;
}) {
  if (found.length === 0) return null;
  const whose = new Map(view.submissions.map(({ id, personId }) => [id, personId]));
  const places = new Map(view.lines.map(({ person }, i) => [person.id, { i, name: person.name }]));
  return (
    <>
      <Subtitle>{title}</Subtitle>
      <Ruled
        label={title}
        headings={[{ text: what }, { text: 'students', numeric: true }, { text: 'in answers of' }]}
      >
        {found.map(({ id, text, answers }) => {
          // In the order of the class.
          const students = answers
            .flatMap((submission) => {
              const place = places.get(whose.get(submission) ?? '');
              return place ? [{ ...place, submission }] : [];
            })
            .sort((a, b) => a.i - b.i);
          return (
            <tr key={id} data-found={id}>
              <Cell strong>{text}</Cell>
              <Cell numeric>{students.length}</Cell>
              <Cell>
                {students.slice(0, NAMED).map(({ name, submission }, i) => (
                  <Fragment key={submission}>
                    {i === 0 ? '' : ', '}
                    <Link to={to(submission)}>{name}</Link>
                  </Fragment>
                ))}
                {students.length > NAMED ? (
                  <Text as="span" color="quiet">
                    {` and ${counted(students.length - NAMED, 'other')}`}
                  </Text>
                ) : null}
              </Cell>
            </tr>
          );
        })}
      </Ruled>
    </>
  );
}
