import { Box, Flex, Heading, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import { send, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/form/action.js';
import { useAction } from '../kit/form/use-action.js';
import { arrive } from '../kit/layout/arrive.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { TotalInWords } from './total-in-words.js';

/** One student's marks, what they come to, and what the student is excused from. */
export function StudentGrades({
  book,
  student,
  onClose,
}: {
  book: Schemas['Gradebook'];
  student: Schemas['Gradebook']['students'][number];
  onClose: () => void;
}) {
  const address = useCourseApi();
  const { id: courseId, role } = useCourse();
  const doing = useAction();
  const excuse = (exercise: string, excused: boolean) =>
    doing.run(() =>
      send('put', address('/gradebook/excused/{exercise}/{person}', { exercise, person: student.id }), {
        excused,
      }),
    );
  return (
    <Box mt={4}>
      <Flex justify="space-between" gap={3} align="baseline">
        <Heading
          ref={arrive}
          tabIndex={-1}
          outline="none"
          as="h2"
          fontFamily="heading"
          fontSize="19px"
          fontWeight={650}
        >
          {student.name}
        </Heading>
        <TextAction onClick={onClose}>close</TextAction>
      </Flex>
      <Text fontSize="13.5px" color="quiet" overflowWrap="anywhere">
        {student.email}
        {student.section === null ? '' : ` · ${student.section}`}
      </Text>
      <Ruled
        label={`Marks of ${student.name}`}
        headings={[
          { text: 'exercise' },
          { text: 'marks', numeric: true },
          ...(role === 'instructor' ? [{ text: 'counts' }] : []),
        ]}
      >
        {book.exercises.map(({ id, title, marks: outOf }, i) => {
          const { marks = null, excused = false } = student.cells[i] ?? {};
          return (
            <tr key={id}>
              <Cell>
                {marks === null ? (
                  title
                ) : (
                  <Link to={`/courses/${courseId}/exercises/${id}/submissions?student=${student.id}`}>
                    {title}
                  </Link>
                )}
              </Cell>
              <Cell numeric>{marks === null ? '–' : `${marks} of ${outOf}`}</Cell>
              {role === 'instructor' ? (
                <Cell nowrap>
                  <TextAction
                    label={`${excused ? 'excused, count it again' : 'excuse'}: ${title}`}
                    onClick={() => excuse(id, !excused)}
                  >
                    {excused ? 'excused, count it again' : 'excuse'}
                  </TextAction>
                </Cell>
              ) : null}
            </tr>
          );
        })}
      </Ruled>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      <TotalInWords total={student.total} />
    </Box>
  );
}
