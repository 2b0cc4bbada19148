import { Text } from '@chakra-ui/react';
import { counted, shortNumber } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action } from '../kit/form/action.js';
import { Answer } from '../kit/answer/states.js';
import { Subtitle } from '../kit/layout/title.js';

/** How worn the feedback rows of a question are, once somebody asks. */
export function WearOfRows({ exerciseId, question }: { exerciseId: string; question: string }) {
  const [asked, ask] = useState(false);
  const address = useCourseApi();
  const wear = useAnswer(
    asked ? address('/exercises/{exercise}/wear/{question}', { exercise: exerciseId, question }) : null,
  );
  return (
    <>
      <Subtitle>Wear of the feedback rows</Subtitle>
      {asked ? (
        <Answer of={wear} what="the wear of the feedback rows">
          {(found) => <Found wear={found} />}
        </Answer>
      ) : (
        <Action plain onClick={() => ask(true)}>
          Measure it
        </Action>
      )}
    </>
  );
}

const points = (value: number): string => shortNumber(value, 2);

function Found({ wear }: { wear: Schemas['WearInfo'] }) {
  const { attempts, shown, students, gap, expected, asLarge, reason } = wear;
  return (
    <Text fontSize="14px" maxW="72ch" data-wear={expected ? 'judged' : 'unjudged'}>
      {counted(shown, 'score')} {shown === 1 ? 'was' : 'were'} shown in {counted(attempts, 'attempt')}.{' '}
      {gap === null ? (
        'No answer has a score on both feedback and final rows.'
      ) : (
        <>
          The answer of each of {counted(students, 'student')} that does best on the feedback rows is on
          average <b>{points(Math.abs(gap))}</b> {gap < 0 ? 'better' : 'worse'} on the final rows.{' '}
          {expected && asLarge !== null ? (
            <>
              Choosing the best of several gives {points(expected.mean)} by chance, {points(expected.low)} to{' '}
              {points(expected.high)} in 95 of 100 other splits of the rows; {Math.round(asLarge * 100)} in
              100 reach what was found.{' '}
              {asLarge < 0.05 ? 'Answers follow the feedback.' : 'That is no sign of wear.'}
            </>
          ) : (
            `What chance gives could not be judged: ${reason ?? ''}.`
          )}
        </>
      )}
    </Text>
  );
}
