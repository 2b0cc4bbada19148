import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { arrive } from '../kit/layout/arrive.js';
import { usePageKeys } from '../kit/layout/use-page-keys.js';
import { momentText } from '../kit/table/format.js';
import { PlanNumber, PlanSentence } from '../kit/sentence/plan-sentence.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { TextArea } from '../kit/form/text-area.js';
import { useAction } from '../kit/form/use-action.js';

/** Marks that staff give an answer in place of those that were found, with the reason that the student reads. */
export function AdjustMarks({
  exerciseId,
  submission,
  outOf,
}: {
  exerciseId: string;
  submission: Schemas['OpenedSubmission'];
  outOf: number;
}) {
  const address = useCourseApi();
  const { timeZone } = useCourse();
  const doing = useAction();
  const { id, marks, adjustment } = submission;
  const [given, give] = useState<Schemas['MarkAdjustment'] | null>(null);
  const keep = (next: Schemas['MarkAdjustment']) =>
    doing.run(async () => {
      await send(
        'put',
        address('/exercises/{exercise}/submissions/{submission}/marks', {
          exercise: exerciseId,
          submission: id,
        }),
        next,
      );
      give(null);
    });
  usePageKeys({ m: given ? null : () => give({ marks, reason: '' }) });
  const takenBack = { marks: null, reason: 'The adjustment is taken back.' };
  return (
    <Box mt={5}>
      {adjustment ? (
        <Text fontSize="14px" overflowWrap="anywhere">
          <b>
            {adjustment.marks} of {outOf} marks
          </b>{' '}
          given by {adjustment.by}, {momentText(adjustment.at, timeZone)}: {adjustment.reason}{' '}
          <TextAction onClick={() => keep(takenBack)}>take back</TextAction>
        </Text>
      ) : null}
      {given ? (
        <Box ref={arrive} tabIndex={-1} outline="none" role="group" aria-label="Adjust the marks">
          <PlanSentence label="Adjusted marks">
            Give{' '}
            <PlanNumber
              label="adjusted marks"
              value={given.marks ?? 0}
              min={0}
              max={outOf}
              onChange={(next) => give({ ...given, marks: next })}
            />{' '}
            of {outOf} marks, because
          </PlanSentence>
          <TextArea
            label="reason of the adjustment"
            placeholder="The student reads this with the marks"
            value={given.reason}
            onChange={(reason) => give({ ...given, reason })}
          />
          <Flex mt={2} gap={3} align="center">
            <Action busy={doing.busy} onClick={() => keep(given)}>
              Give these marks
            </Action>
            <TextAction onClick={() => give(null)}>Leave them</TextAction>
          </Flex>
        </Box>
      ) : (
        <TextAction onClick={() => give({ marks, reason: '' })}>Adjust the marks</TextAction>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
