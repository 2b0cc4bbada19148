import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import type { Schemas } from '../api/client.js';
import { figureText, percent } from '../kit/table/format.js';

/** How hard a question was for the class, and whether who does well elsewhere does well in it. */
export function QuestionInClass({ of }: { of: Schemas['ClassQuestion'] }) {
  if (of.share === null) return null;
  const { discrimination: own } = of;
  return (
    <Text mt={4} fontSize="14.5px" data-item>
      {`${of.answered} of ${counted(of.students, 'student')} with marks answered this question; on average the ${of.students} have ${percent(of.share)} of its marks.`}
      {own
        ? ` Correlation with the marks for the other questions: ${figureText(own.value)} (${figureText(own.low)} to ${figureText(own.high)}, 95 %).`
        : ''}
      {of.found.dismissed > 0
        ? ` Of ${counted(of.found.slips, 'known mistake')} found in its answers ${of.found.dismissed} ${of.found.dismissed === 1 ? 'was' : 'were'} dismissed by staff.`
        : ''}
    </Text>
  );
}
