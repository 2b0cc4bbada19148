import { Box, Flex, Text } from '@chakra-ui/react';
import { groupedBy } from '@modest-sieve/core/foundation';
import { Link, useSearchParams } from 'react-router';
import { type Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { schemeOf } from '../exercises/common/scheme-of.js';
import { figureText, momentText } from '../kit/table/format.js';
import { Select } from '../kit/form/select.js';
import { DataTable, type DataColumn } from '../kit/table/data-table.js';
import { Subtitle } from '../kit/layout/title.js';
import { OwnDeadline } from './own-deadline.js';

type Submission = Schemas['ClassView']['submissions'][number];
type Line = ReturnType<typeof linesFor>[number];

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
  const sections = [...new Set(view.lines.flatMap((line) => line.section ?? []))].sort();
  const section = sections.find((one) => one === search.get('section')) ?? null;
  const lines = all
    .filter((line) => section === null || line.section === section)
    .filter(shown(show, slips, view.submissions));
  const narrow = (key: string, chosen: string) => {
    const next = new URLSearchParams(search);
    if (chosen === EVERYBODY) next.delete(key);
    else next.set(key, chosen);
    setSearch(next, { replace: true });
  };
  const byPerson = groupedBy(
    view.submissions.filter(({ question }) => question === sheet.id),
    ({ personId }) => personId,
  );
  const answersOf = ({ person }: Line) => byPerson.get(person.id) ?? [];
  const columns: DataColumn<Line>[] = [
    {
      key: 'student',
      heading: 'student',
      value: ({ person }) => person.name,
      cell: ({ person, counting }) => (counting ? <Link to={to(counting)}>{person.name}</Link> : person.name),
    },
    {
      key: 'answers',
      heading: 'answers',
      value: ({ submissions }) => submissions,
      cell: (line) => <Answers line={line} answers={answersOf(line)} opened={opened} to={to} />,
    },
    {
      key: 'last',
      heading: 'last',
      value: ({ lastAt }) => lastAt,
      cell: ({ lastAt }) => (lastAt ? momentText(lastAt, timeZone) : ''),
    },
    ...(hasScore
      ? [
          {
            key: 'score',
            heading: 'score',
            numeric: true,
            value: ({ score }: Line) => score,
            cell: ({ score }: Line) => figureText(score),
          },
        ]
      : []),
    {
      key: 'marks',
      heading: 'marks',
      numeric: true,
      value: ({ marks }) => marks,
      cell: ({ marks }) => (marks === null ? '–' : `${marks} of ${sheet.marks}`),
    },
    ...(many
      ? [
          {
            key: 'all',
            heading: 'in all',
            numeric: true,
            value: ({ total }: Line) => total,
            cell: ({ total }: Line) => (total === null ? '–' : `${total} of ${exercise.marks}`),
          },
        ]
      : []),
    ...(role === 'instructor'
      ? [
          {
            key: 'due',
            heading: 'due',
            value: ({ deadline }: Line) => deadline,
            cell: ({ person, deadline }: Line) => (
              <OwnDeadline exercise={exercise} person={person} deadline={deadline} />
            ),
          },
        ]
      : []),
  ];
  return (
    <>
      <Flex justify="space-between" align="flex-end" wrap="wrap" columnGap={4} mb={3}>
        <Subtitle>
          {lines.length === all.length ? 'Students' : `Students, ${lines.length} of ${all.length}`}
        </Subtitle>
        <Flex gap={4} wrap="wrap" minW={0} maxW="100%">
          {sections.length === 0 ? null : (
            <Select
              label="Section"
              value={section ?? EVERYBODY}
              choices={[EVERYBODY, ...sections].map((one) => ({ value: one, text: one }))}
              onChange={(chosen) => narrow('section', chosen)}
            />
          )}
          <Select label="Show" value={show} choices={choices} onChange={(chosen) => narrow('show', chosen)} />
        </Flex>
      </Flex>
      <DataTable
        label="Students"
        file={`students-${sheet.id}`}
        columns={columns}
        rows={lines}
        keyOf={({ person }) => person.id}
        isChosen={(line) => answersOf(line).some(({ id }) => id === opened)}
      />
    </>
  );
}

/** A student's answers to the question, each a link. */
function Answers({
  line,
  answers,
  opened,
  to,
}: {
  line: Line;
  answers: readonly Submission[];
  opened: string | null;
  to: (submission: string) => string;
}) {
  if (answers.length === 0) return <Text color="quiet">nothing yet</Text>;
  return (
    <Flex gap={3} wrap="wrap">
      {answers.map((s) => (
        <Box key={s.id}>
          <Link
            to={to(s.id)}
            aria-current={s.id === opened ? 'true' : undefined}
            aria-label={`answer ${s.number} of ${line.person.name}`}
            style={{ textDecoration: 'underline' }}
          >
            {s.number}
          </Link>{' '}
          <Text as="span" color={s.outcome === 'refused' || s.outcome === 'failed' ? 'fails' : 'quiet'}>
            {s.id === line.counting ? 'counts' : s.outcome}
            {s.late ? ', late' : ''}
          </Text>
        </Box>
      ))}
    </Flex>
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
): (line: Line) => boolean {
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
  view.lines.flatMap(({ person, section, answers, marks: total, deadline }) => {
    const own = answers.find((one) => one.question === question);
    return own ? [{ ...own, person, section, total, deadline }] : [];
  });
