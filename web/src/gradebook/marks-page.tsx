import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { useAnswer } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';
import { TotalInWords } from './total-in-words.js';

/** A student's own marks, and what they come to. */
export function MarksPage() {
  const { id } = useCourse();
  const address = useCourseApi();
  const grades = useAnswer(address('/marks'));
  return (
    <>
      <Title>Marks</Title>
      <Answer of={grades} what="your marks">
        {({ exercises, total }) =>
          exercises.length === 0 ? (
            <Empty title="Nothing is returned yet">
              Marks appear here when your instructor returns an exercise.
            </Empty>
          ) : (
            <Box mt={4} maxW="820px">
              <Ruled
                label="Marks"
                headings={[
                  { text: 'exercise' },
                  { text: 'marks', numeric: true },
                  { text: 'of', numeric: true },
                ]}
              >
                {exercises.map(({ id: exercise, title, outOf, marks, excused }) => (
                  <tr key={exercise}>
                    <Cell strong>
                      <Link to={`/courses/${id}/exercises/${exercise}`}>{title}</Link>
                    </Cell>
                    <Cell numeric>{excused ? 'excused' : (marks ?? 'nothing handed in')}</Cell>
                    <Cell numeric>{outOf}</Cell>
                  </tr>
                ))}
              </Ruled>
              <TotalInWords total={total} />
            </Box>
          )
        }
      </Answer>
    </>
  );
}
