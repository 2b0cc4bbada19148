import { Box, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { CopyLine } from '../../kit/form/copy-line.js';

/** How to hand in without the page: a line for a terminal or a notebook for each question. */
export function FromAProgram({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const [shown, setShown] = useState(false);
  const url = `${location.origin}${address('/exercises/{exercise}/submissions', { exercise: exercise.id })}`;
  return (
    <Box mt={4} fontSize="14px">
      <TextAction onClick={() => setShown(!shown)}>
        {shown ? 'Hand in from this page alone' : 'Hand in from a program'}
      </TextAction>
      {shown ? (
        <>
          <Text mt={2} mb={2} fontSize="13.5px" color="quiet">
            Make a token on <Link to="/you">your own page</Link>, put it into SIEVE_TOKEN, and send the
            answer. What comes back is the receipt.
          </Text>
          {exercise.sheets.map((sheet, i) => (
            <Box key={sheet.id} mb={2}>
              <Text fontSize="13.5px">
                Question {i + 1}: {sheet.title}
              </Text>
              <CopyLine
                label={`line for a terminal, question ${i + 1}`}
                text={`curl -H "Authorization: Bearer $SIEVE_TOKEN" ${formOf(sheet)} "${url}?question=${sheet.id}&wait=60"`}
              />
            </Box>
          ))}
        </>
      ) : null}
    </Box>
  );
}

const MODEL_NAMES = { any: 'model.onnx', onnx: 'model.onnx', pmml: 'model.pmml', coefficients: 'model.csv' };

/** The parts of a form that answers a question. */
function formOf({ file, fields, fileAbout }: Schemas['QuestionSheet']): string {
  const name = fileAbout?.takes ? MODEL_NAMES[fileAbout.takes] : 'answer.csv';
  const idle = Object.fromEntries(fields.map(({ key, choices }) => [key, choices?.[0]?.value ?? '0.5']));
  return [
    ...(file && !file.optional ? [`-F file=@${name}`] : []),
    ...(fields.length > 0 ? [`-F 'fields=${JSON.stringify(idle)}'`] : []),
  ].join(' ');
}
