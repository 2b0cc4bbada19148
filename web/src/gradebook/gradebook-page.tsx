import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { useAnswer } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';

/** Students by exercises. */
export function GradebookPage() {
  const address = useCourseApi();
  const { id, joinCode } = useCourse();
  const gradebook = useAnswer(address('/gradebook'));
  return (
    <>
      <Title>Gradebook</Title>
      <Answer of={gradebook} what="the gradebook">
        {({ exercises, students }) =>
          students.length === 0 ? (
            <Empty title="No student has joined">
              They join with the code {joinCode}. Marks appear here as files are checked.
            </Empty>
          ) : (
            <Box mt={4}>
              <Ruled
                label="Gradebook"
                keepsFirst
                headings={[
                  { text: 'student' },
                  { text: 'address' },
                  ...exercises.map((e) => ({
                    text: `${e.title}, of ${e.marks}${e.state === 'returned' ? '' : ' (open)'}`,
                    numeric: true,
                  })),
                ]}
              >
                {students.map((student) => (
                  <tr key={student.id}>
                    <Cell strong>{student.name}</Cell>
                    <Cell quiet>{student.email}</Cell>
                    {student.marks.map((mark, i) => (
                      <Cell key={exercises[i]?.id} numeric>
                        {mark === null ? (
                          '–'
                        ) : (
                          <Link to={`/courses/${id}/exercises/${exercises[i]?.id ?? ''}/submissions`}>
                            {mark}
                          </Link>
                        )}
                      </Cell>
                    ))}
                  </tr>
                ))}
              </Ruled>
              <Box mt={4}>
                <a href={address('/gradebook.csv')} style={{ fontWeight: 700 }}>
                  Export marks as CSV
                </a>
              </Box>
            </Box>
          )
        }
      </Answer>
    </>
  );
}
