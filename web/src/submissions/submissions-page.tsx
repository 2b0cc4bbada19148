import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { useAnswers } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { deadlineText } from '../kit/format.js';
import { Answer, Empty } from '../kit/states.js';
import { Cell, Ruled } from '../kit/table.js';
import { Title } from '../kit/title.js';

/** The exercises that files are handed in for. */
export function SubmissionsPage() {
  const { id, timeZone } = useCourse();
  const address = useCourseApi();
  const exercises = useAnswers<'ExerciseSummary'>(address('exercises'));
  return (
    <>
      <Title>Submissions</Title>
      <Answer of={exercises} what="the exercises">
        {(list) => {
          const open = list.filter((e) => e.state === 'released' || e.state === 'returned');
          return open.length === 0 ? (
            <Empty title="No exercise is released">
              Files are handed in for released exercises.{' '}
              <Link to={`/courses/${id}/exercises`}>Release one</Link> first.
            </Empty>
          ) : (
            <Box mt={4}>
              <Ruled
                label="Released exercises"
                headings={[
                  { text: 'exercise' },
                  { text: 'due' },
                  { text: 'students', numeric: true },
                  { text: 'files', numeric: true },
                  { text: 'state' },
                ]}
              >
                {open.map((exercise) => (
                  <tr key={exercise.id}>
                    <Cell strong>
                      <Link to={exercise.id}>{exercise.title}</Link>
                    </Cell>
                    <Cell>{deadlineText(exercise.deadline, timeZone)}</Cell>
                    <Cell numeric>{exercise.people}</Cell>
                    <Cell numeric>{exercise.submissions}</Cell>
                    <Cell>{exercise.state === 'returned' ? 'returned' : 'open'}</Cell>
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
