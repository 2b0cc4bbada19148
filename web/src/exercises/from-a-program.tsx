import { Box, chakra, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { CopyLine } from '../kit/copy-line.js';

/** How to hand in without the page: one line for a terminal or a notebook. */
export function FromAProgram({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const url = `${location.origin}${address('exercises', exercise.id, 'submissions')}?wait=60`;
  return (
    <chakra.details mt={4}>
      <chakra.summary cursor="pointer" color="accent" fontWeight={700} fontSize="14px">
        Hand in from a program
      </chakra.summary>
      <Text mt={2} mb={2} fontSize="13.5px" color="quiet">
        Make a token on <Link to="/you">your own page</Link>, put it into SIEVE_TOKEN, and send the file. The
        answer is the receipt.
      </Text>
      <Box>
        <CopyLine
          label="line for a terminal"
          text={`curl -H "Authorization: Bearer $SIEVE_TOKEN" -F file=@predictions.csv "${url}"`}
        />
      </Box>
    </chakra.details>
  );
}
