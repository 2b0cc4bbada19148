import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { deadlineText } from '@modest-sieve/core/assessment';
import { Link } from 'react-router';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';

const STATES: Record<Schemas['ExerciseState'], string> = {
  draft: 'draft',
  packing: 'being released',
  released: 'open',
  returned: 'returned',
};

/** What was handed in, and the way to it; drafts have nothing. */
function HandedIn({
  exercise: { id, state, people, submissions },
}: {
  exercise: Schemas['ExerciseSummary'];
}) {
  if (state === 'draft' || state === 'packing') return <>–</>;
  return (
    <Link to={`${id}/submissions`}>
      {counted(people, 'student')}, {counted(submissions, 'answer')}
    </Link>
  );
}

/** All exercises of the course, in order of their deadlines. */
export function ExercisesPage() {
  const course = useCourse();
  const address = useCourseApi();
  const exercises = useAnswer(address('/exercises'));
  const staff = course.role !== 'student';
  return (
    <>
      <Title actions={course.role === 'instructor' ? <Link to="new">Set a new exercise</Link> : null}>
        Exercises
      </Title>
      <Answer of={exercises} what="the exercises">
        {(list) =>
          list.length === 0 ? (
            <Empty title="No exercise yet">
              {course.role === 'instructor' ? (
                <>
                  An exercise asks for the held-out rows of a split. <Link to="new">Set the first one</Link>.
                </>
              ) : (
                'Your instructor has not released an exercise. It will appear here by itself.'
              )}
            </Empty>
          ) : (
            <Box mt={4}>
              <Ruled
                label="Exercises"
                headings={[
                  { text: 'exercise' },
                  { text: 'state' },
                  { text: 'due' },
                  { text: staff ? 'handed in' : 'answered', numeric: true },
                  { text: 'marks', numeric: true },
                ]}
              >
                {list.map((exercise) => (
                  <tr key={exercise.id}>
                    <Cell strong>
                      <Link to={exercise.id}>{exercise.title}</Link>
                    </Cell>
                    <Cell>
                      {exercise.stale ? <b>keys out of date · </b> : null}
                      {exercise.opensAt !== null &&
                      exercise.state === 'released' &&
                      Date.parse(exercise.opensAt) > Date.now()
                        ? `opens ${deadlineText(exercise.opensAt, course.timeZone)}`
                        : !staff && exercise.state === 'released' && exercise.answered === 0
                          ? 'new'
                          : STATES[exercise.state]}
                    </Cell>
                    <Cell>{deadlineText(exercise.deadline, course.timeZone)}</Cell>
                    <Cell numeric>
                      {staff ? (
                        <HandedIn exercise={exercise} />
                      ) : (
                        `${exercise.answered} of ${exercise.questions}`
                      )}
                    </Cell>
                    <Cell numeric>
                      {exercise.mark === null ? (
                        <Text as="span" color="quiet">
                          of {exercise.marks}
                        </Text>
                      ) : (
                        `${exercise.mark} of ${exercise.marks}`
                      )}
                    </Cell>
                  </tr>
                ))}
              </Ruled>
            </Box>
          )
        }
      </Answer>
    </>
  );
}
