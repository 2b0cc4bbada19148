import { Box, Flex, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import { type Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { schemeOf } from '../exercises/common/scheme-of.js';
import { figureText, momentText } from '../kit/table/format.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle } from '../kit/layout/title.js';
import { OwnDeadline } from './own-deadline.js';

export function Status({
  view,
  exercise,
  sheet,
  opened,
}: {
  view: Schemas['ClassView'];
  exercise: Schemas['ExerciseDetail'];
  sheet: Schemas['QuestionSheet'];
  opened: string | null;
}) {
  const { id, timeZone, role } = useCourse();
  const many = exercise.sheets.length > 1;
  const hasScore = schemeOf(sheet) !== null;
  const to = (submission: string) => `/courses/${id}/exercises/${exercise.id}/submissions/${submission}`;
  return (
    <>
      <Subtitle>Students</Subtitle>
      <Ruled
        label="Students"
        headings={[
          { text: 'student' },
          { text: 'answers' },
          { text: 'last' },
          ...(hasScore ? [{ text: 'score', numeric: true }] : []),
          { text: 'marks', numeric: true },
          ...(many ? [{ text: 'in all', numeric: true }] : []),
          ...(role === 'instructor' ? [{ text: 'due' }] : []),
        ]}
      >
        {linesFor(view, sheet.id).map((line) => (
          <tr key={line.person.id}>
            <Cell strong>
              {line.counting ? <Link to={to(line.counting)}>{line.person.name}</Link> : line.person.name}
            </Cell>
            <Cell>
              {line.submissions === 0 ? (
                <Text color="quiet">nothing yet</Text>
              ) : (
                <Flex gap={3} wrap="wrap">
                  {view.submissions
                    .filter((s) => s.personId === line.person.id && s.question === sheet.id)
                    .map((s) => (
                      <Box key={s.id}>
                        <Link
                          to={to(s.id)}
                          aria-current={s.id === opened ? 'true' : undefined}
                          aria-label={`answer ${s.number} of ${line.person.name}`}
                          style={{ textDecoration: 'underline' }}
                        >
                          {s.number}
                        </Link>{' '}
                        <Text
                          as="span"
                          color={s.outcome === 'refused' || s.outcome === 'failed' ? 'fails' : 'quiet'}
                        >
                          {s.id === line.counting ? 'counts' : s.outcome}
                        </Text>
                      </Box>
                    ))}
                </Flex>
              )}
            </Cell>
            <Cell quiet>{line.lastAt ? momentText(line.lastAt, timeZone) : ''}</Cell>
            {hasScore ? <Cell numeric>{figureText(line.score)}</Cell> : null}
            <Cell numeric>{line.marks === null ? '–' : `${line.marks} of ${sheet.marks}`}</Cell>
            {many ? (
              <Cell numeric>{line.total === null ? '–' : `${line.total} of ${exercise.marks}`}</Cell>
            ) : null}
            {role === 'instructor' ? (
              <Cell nowrap>
                <OwnDeadline exercise={exercise} person={line.person} deadline={line.deadline} />
              </Cell>
            ) : null}
          </tr>
        ))}
      </Ruled>
    </>
  );
}

/** The lines of the class with what was answered to one question. */
const linesFor = (view: Schemas['ClassView'], question: string) =>
  view.lines.flatMap(({ person, answers, marks: total, deadline }) => {
    const own = answers.find((one) => one.question === question);
    return own ? [{ ...own, person, total, deadline }] : [];
  });
