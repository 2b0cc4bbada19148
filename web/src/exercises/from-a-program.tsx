import { Box, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/action.js';
import { CopyLine } from '../kit/copy-line.js';

/** How to hand in without the page: one line for a terminal or a notebook. */
export function FromAProgram({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const [shown, setShown] = useState(false);
  const url = `${location.origin}${address('exercises', exercise.id, 'submissions')}?wait=60`;
  return (
    <Box mt={4} fontSize="14px">
      <TextAction onClick={() => setShown(!shown)}>
        {shown ? 'Hand in from this page alone' : 'Hand in from a program'}
      </TextAction>
      {shown ? (
        <>
          <Text mt={2} mb={2} fontSize="13.5px" color="quiet">
            Make a token on <Link to="/you">your own page</Link>, put it into SIEVE_TOKEN, and send the file.
            The answer is the receipt.
          </Text>
          <CopyLine
            label="line for a terminal"
            text={`curl -H "Authorization: Bearer $SIEVE_TOKEN" -F file=@predictions.csv "${url}"`}
          />
        </>
      ) : null}
    </Box>
  );
}
