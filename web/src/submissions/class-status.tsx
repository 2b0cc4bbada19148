import { Box, Flex, Text } from '@chakra-ui/react';
import { Link, useSearchParams } from 'react-router';
import { type Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { schemeOf } from '../exercises/common/scheme-of.js';
import { figureText, momentText } from '../kit/table/format.js';
import { Select } from '../kit/form/select.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle } from '../kit/layout/title.js';
import { OwnDeadline } from './own-deadline.js';

export function Status({
  view,
  exercise,
  sheet,
  slips,
  opened,
  to,
}: {
  view: Schemas['ClassView'];
  exercise: Schemas['ExerciseDetail'];
  sheet: Schemas['QuestionSheet'];
  /** Known mistakes in the answers to the question. */
  slips: Schemas['ClassView']['slips'];
  opened: string | null;
  /** The address of a submission. */
  to: (submission: string) => string;
}) {
  const { timeZone, role } = useCourse();
  const many = exercise.sheets.length > 1;
  const hasScore = schemeOf(sheet) !== null;
  const [search, setSearch] = useSearchParams();
  const choices = choicesOf(slips);
  const show = choices.find(({ value }) => value === search.get('show'))?.value ?? EVERYBODY;
  const all = linesFor(view, sheet.id);
  const lines = all.filter(shown(show, slips, view.submissions));
  return (
    <>
      <Flex justify="space-between" align="flex-end" wrap="wrap" columnGap={4} mb={3}>
        <Subtitle>
          {lines.length === all.length ? 'Students' : `Students, ${lines.length} of ${all.length}`}
        </Subtitle>
        <Select
          label="Show"
          value={show}
          choices={choices}
          onChange={(chosen) => {
            const next = new URLSearchParams(search);
            if (chosen === EVERYBODY) next.delete('show');
            else next.set('show', chosen);
            setSearch(next, { replace: true });
          }}
        />
      </Flex>
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
        {lines.map((line) => (
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
                          {s.late ? ', late' : ''}
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

const EVERYBODY = 'everybody';

const choicesOf = (slips: Schemas['ClassView']['slips']) => [
  { value: EVERYBODY, text: 'everybody' },
  { value: 'answered', text: 'who answered' },
  { value: 'nothing', text: 'who has not answered' },
  { value: 'late', text: 'who answered late' },
  { value: 'refused', text: 'whose last answer could not be marked' },
  ...slips.map(({ id, title }) => ({ value: `slip-${id}`, text: `who made the mistake: ${title}` })),
];

/** Which lines a choice shows. */
function shown(
  show: string,
  slips: Schemas['ClassView']['slips'],
  submissions: Schemas['ClassView']['submissions'],
): (line: ReturnType<typeof linesFor>[number]) => boolean {
  const slip = slips.find(({ id }) => show === `slip-${id}`);
  if (slip) {
    const answers = new Set(slip.answers);
    const made = new Set(submissions.flatMap(({ id, personId }) => (answers.has(id) ? [personId] : [])));
    return ({ person }) => made.has(person.id);
  }
  if (show === 'answered') return (line) => line.submissions > 0;
  if (show === 'nothing') return (line) => line.submissions === 0;
  if (show === 'late')
    return ({ person, question }) =>
      submissions.some((s) => s.late && s.personId === person.id && s.question === question);
  if (show === 'refused')
    return ({ person, question }) =>
      ['refused', 'failed'].includes(
        submissions.filter((s) => s.personId === person.id && s.question === question).at(-1)?.outcome ?? '',
      );
  return () => true;
}

/** The lines of the class with what was answered to one question. */
const linesFor = (view: Schemas['ClassView'], question: string) =>
  view.lines.flatMap(({ person, answers, marks: total, deadline }) => {
    const own = answers.find((one) => one.question === question);
    return own ? [{ ...own, person, total, deadline }] : [];
  });
