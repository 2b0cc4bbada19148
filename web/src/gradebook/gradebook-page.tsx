import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Link, useSearchParams } from 'react-router';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { Select } from '../kit/form/select.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { DataTable, type DataColumn } from '../kit/table/data-table.js';
import { figureText, percent } from '../kit/table/format.js';
import { GradePlanSentences } from './grade-plan.js';
import { StudentGrades } from './student-grades.js';

type Book = Schemas['Gradebook'];
type Student = Book['students'][number];

const EVERYBODY = 'everybody';

/** Students by exercises, and what their marks come to. */
export function GradebookPage() {
  const address = useCourseApi();
  const { joinCode } = useCourse();
  const gradebook = useAnswer(address('/gradebook'));
  return (
    <Answer of={gradebook} what="the gradebook">
      {(book) => {
        const returned = book.exercises.filter(({ state }) => state === 'returned').length;
        return (
          <>
            <Title
              aside={`${counted(book.students.length, 'student')} · ${returned} of ${counted(book.exercises.length, 'exercise')} returned`}
            >
              Gradebook
            </Title>
            {book.students.length === 0 ? (
              <Empty title="No student has joined">
                They join with the code {joinCode}. Marks appear here as files are checked.
              </Empty>
            ) : (
              <Marks book={book} />
            )}
          </>
        );
      }}
    </Answer>
  );
}

function Marks({ book }: { book: Book }) {
  const { role } = useCourse();
  const [search, setSearch] = useSearchParams();
  const set = (key: string, value: string | null) => {
    const next = new URLSearchParams(search);
    if (value === null) next.delete(key);
    else next.set(key, value);
    setSearch(next, { replace: true });
  };
  const sections = [...new Set(book.students.flatMap(({ section }) => section ?? []))].sort();
  const section = sections.find((one) => one === search.get('section')) ?? EVERYBODY;
  const students = book.students.filter((one) => section === EVERYBODY || one.section === section);
  const chosen = book.students.find(({ id }) => id === search.get('student')) ?? null;
  return (
    <TwoPane
      left={
        <>
          {sections.length === 0 ? null : (
            <Select
              label="Section"
              value={section}
              choices={[EVERYBODY, ...sections].map((one) => ({ value: one, text: one }))}
              onChange={(one) => set('section', one === EVERYBODY ? null : one)}
            />
          )}
          <Box mt={4}>
            <DataTable
              label="Gradebook"
              file="gradebook"
              columns={columnsOf(book, sections.length > 0, set)}
              rows={students}
              keyOf={({ id }) => id}
              isChosen={({ id }) => id === chosen?.id}
              footer={footerOf(book, sections.length > 0)}
            />
          </Box>
        </>
      }
      right={
        chosen ? (
          <StudentGrades key={chosen.id} book={book} student={chosen} onClose={() => set('student', null)} />
        ) : (
          <>
            {role === 'instructor' ? (
              <GradePlanSentences key={JSON.stringify(book.plan)} book={book} />
            ) : null}
            <Exports />
          </>
        )
      }
    />
  );
}

function columnsOf(
  { exercises }: Book,
  hasSections: boolean,
  set: (key: string, value: string | null) => void,
): DataColumn<Student>[] {
  return [
    {
      key: 'name',
      heading: 'student',
      value: ({ name }) => name,
      cell: ({ id, name }) => (
        <Link
          to={`?student=${id}`}
          onClick={(event) => {
            // What the table shows stays as it is.
            event.preventDefault();
            set('student', id);
          }}
        >
          {name}
        </Link>
      ),
    },
    {
      key: 'total',
      heading: 'total',
      title: 'total of what is returned',
      numeric: true,
      value: ({ total }) => (total.share === null ? null : Math.round(total.share * 10_000) / 100),
      cell: ({ total }) => <b>{total.share === null ? '–' : percent(total.share)}</b>,
    },
    ...(hasSections
      ? [
          {
            key: 'section',
            heading: 'section',
            value: ({ section }: Student) => section,
            cell: ({ section }: Student) => section ?? '',
          },
        ]
      : []),
    ...exercises.map(({ id, title, marks, state }, i): DataColumn<Student> => ({
      key: id,
      heading: title,
      title: `${title}, of ${marks}${state === 'returned' ? '' : ' (open)'}`,
      numeric: true,
      value: ({ cells }) => cells[i]?.marks ?? null,
      cell: (student) => <Mark cell={student.cells[i]} isDropped={student.total.dropped.includes(id)} />,
    })),
  ];
}

function Mark({ cell, isDropped }: { cell: Student['cells'][number] | undefined; isDropped: boolean }) {
  if (!cell) return null;
  if (cell.excused) return 'excused';
  if (cell.marks === null) return '–';
  const late = cell.latePercent > 0 ? ` late, −${cell.latePercent} %` : '';
  return (
    <>
      {isDropped ? <s>{cell.marks}</s> : cell.marks}
      {isDropped ? ' dropped' : ''}
      {late}
    </>
  );
}

const footerOf = ({ exercises }: Book, hasSections: boolean) => {
  const room = hasSections ? [''] : [];
  const line = (heading: string, of: (exercise: Book['exercises'][number]) => string) => ({
    heading,
    texts: ['', ...room, ...exercises.map(of)],
  });
  const figure = (value: number | null) => (value === null ? '' : figureText(value));
  return [
    line('of', ({ marks }) => String(marks)),
    line('mean', ({ mean }) => figure(mean)),
    line('median', ({ median }) => figure(median)),
    line('students', ({ marked }) => String(marked)),
  ];
};

function Exports() {
  const address = useCourseApi();
  return (
    <>
      <Subtitle>Export the marks</Subtitle>
      <Flex direction="column" gap={1} fontSize="14.5px">
        <a href={address('/gradebook.csv')}>CSV, for any program</a>
        <a href={address('/gradebook.xlsx')}>XLSX, with how each total came about</a>
        <a href={address('/gradebook-oneroster.zip')}>OneRoster 1.2, for another gradebook</a>
      </Flex>
      <Text mt={2} fontSize="13px" color="quiet" maxW="72ch">
        In every form, a name that a spreadsheet would take for a formula stays a text.
      </Text>
    </>
  );
}
