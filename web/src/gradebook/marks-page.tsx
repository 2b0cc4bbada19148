import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { useAnswer } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';

/** A student's own marks. */
export function MarksPage() {
  const { id } = useCourse();
  const address = useCourseApi();
  const exercises = useAnswer(address('/exercises'));
  return (
    <>
      <Title>Marks</Title>
      <Answer of={exercises} what="your marks">
        {(list) => {
          const returned = list.filter((exercise) => exercise.state === 'returned');
          return returned.length === 0 ? (
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
                {returned.map((exercise) => (
                  <tr key={exercise.id}>
                    <Cell strong>
                      <Link to={`/courses/${id}/exercises/${exercise.id}`}>{exercise.title}</Link>
                    </Cell>
                    <Cell numeric>{exercise.mark ?? 'nothing handed in'}</Cell>
                    <Cell numeric>{exercise.marks}</Cell>
                  </tr>
                ))}
              </Ruled>
            </Box>
          );
        }}
      </Answer>
    </>
  );
}
