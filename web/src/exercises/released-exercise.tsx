import { Box, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { CheckList } from '../kit/checks.js';
import { deadlineText } from '../kit/format.js';
import { Brief } from '../kit/markdown.js';
import { MarkLine } from '../kit/mark-line.js';
import { Subtitle, Title } from '../kit/title.js';
import { TwoSides } from '../kit/two-sides.js';
import { PackLine } from './pack-line.js';

/** An exercise that students have: brief, pack and its audit, marks. */
export function ReleasedExercise({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const { id, timeZone, joinCode } = useCourse();
  return (
    <TwoSides
      left={
        <>
          <Title
            aside={`${exercise.state === 'returned' ? 'returned' : 'open'} · due ${deadlineText(exercise.deadline, timeZone)}`}
          >
            {exercise.title}
          </Title>
          <Box mt={3}>
            <Brief text={exercise.brief} />
          </Box>
          <PackLine exercise={exercise} />
          <Subtitle>Audit of the pack</Subtitle>
          <CheckList label="Audit of the pack" checks={exercise.audit ?? []} />
          <Text mt={4}>
            <Link to={`/courses/${id}/submissions/${exercise.id}`}>See what was handed in</Link>
          </Text>
          {joinCode === null ? null : (
            <Text mt={1} fontSize="13.5px" color="quiet">
              Students join this course with the code <b>{joinCode}</b>.
            </Text>
          )}
        </>
      }
      right={
        <>
          <Subtitle>Question 1: marks</Subtitle>
          <MarkLine scheme={exercise.scheme} metricKey={exercise.metric} />
          <Text fontSize="14px" color="quiet">
            {exercise.attempts} attempts; the {exercise.counts} counts. While it is open students see{' '}
            {exercise.feedback === 'rounded' ? 'a rounded score on half of the held-out rows' : 'no score'}.
          </Text>
        </>
      }
    />
  );
}
