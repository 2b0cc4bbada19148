import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { deadlineText, lateWords, refusedAttempt } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { fetchAnswer, send, useAnswer, type Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { fromNow } from '../../kit/table/format.js';
import { Brief } from '../../kit/layout/markdown.js';
import { Answer } from '../../kit/answer/states.js';
import { Title } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { FromAProgram } from './from-a-program.js';
import { HandIn } from './hand-in.js';
import { PackLine } from './pack-line.js';
import { feedbackWords } from '../common/feedback-words.js';
import { QuestionView } from './question-view.js';
import { Receipts } from './receipts.js';

/** The exercise as a student works on it: brief, pack, a place to answer each question, and the receipts so far. */
export function StudentSheet({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const { timeZone } = useCourse();
  const address = useCourseApi();
  const [search, setSearch] = useSearchParams();
  const before = search.get('before');
  const receipts = useAnswer(
    address('/exercises/{exercise}/receipts', { exercise: exercise.id }, before === null ? {} : { before }),
  );
  const { attempts, perDay, counts, deadline, now, state } = exercise;
  const late = lateWords(exercise);
  // A receipt that was handed in for, or chosen, takes the focus when it appears; not the one that a page begins with.
  const [isAsked, setAsked] = useState(false);
  return (
    <TwoPane
      stays
      left={
        <>
          <Title>{exercise.title}</Title>
          <Text mt={2} fontSize="14px" color="quiet">
            {state === 'returned' ? 'Returned · deadline ' : 'Due '}
            <Text as="b" color="ink">
              {deadlineText(deadline, timeZone)}
            </Text>
            {state === 'returned' ? '' : `, ${fromNow(deadline, now)}`}
            {late === '' ? '' : `; ${late}`} · {counted(attempts, 'attempt')}
            {perDay === null ? '' : `, ${perDay} a day,`} at each question, the {counts} counts
          </Text>
          {state === 'released' ? (
            <Text fontSize="14px" color="quiet">
              Until it is returned you are shown{' '}
              {feedbackWords(
                exercise.feedback,
                exercise.sheets.map(({ markedBy }) => markedBy),
              )}
              .
            </Text>
          ) : null}
          {exercise.notice === '' ? null : (
            <Box mt={3} px={4} py={2} borderLeft="3px solid" borderColor="unsure" bg="sheet" role="note">
              <b>Changed:</b> {exercise.notice}
            </Box>
          )}
          {exercise.remark === null ? null : (
            <Box
              mt={3}
              px={4}
              py={2}
              borderLeft="3px solid"
              borderColor="accent"
              bg="sheet"
              role="note"
              aria-label="Comment on all your answers"
              overflowWrap="anywhere"
            >
              <b>Your instructor wrote:</b>
              <Brief text={exercise.remark} />
            </Box>
          )}
          <Box mt={4}>
            <Brief text={exercise.brief} />
          </Box>
          <PackLine exercise={exercise} />
          {exercise.sheets.map((sheet, i) => (
            <QuestionView key={sheet.id} sheet={sheet} place={i + 1}>
              <Place
                exercise={exercise}
                sheet={sheet}
                receipts={receipts.data?.receipts ?? []}
                onSent={() => setAsked(true)}
              />
            </QuestionView>
          ))}
          {state === 'released' ? <FromAProgram exercise={exercise} /> : null}
        </>
      }
      right={
        <Answer of={receipts} what="your receipts">
          {({ receipts: list, next }) => (
            <>
              <Receipts
                receipts={list}
                exercise={exercise}
                arrives={isAsked}
                onChoose={() => setAsked(true)}
              />
              <Flex mt={3} gap={4} fontSize="14px">
                {before === null ? null : (
                  <TextAction onClick={() => setSearch({})}>To the latest</TextAction>
                )}
                {next === null ? null : (
                  <TextAction onClick={() => setSearch({ before: next })}>Earlier</TextAction>
                )}
              </Flex>
            </>
          )}
        </Answer>
      }
    />
  );
}

/** Where a question is answered, or why it is not any more. */
function Place({
  exercise,
  sheet,
  receipts,
  onSent,
}: {
  exercise: Schemas['ExerciseDetail'];
  sheet: Schemas['QuestionSheet'];
  receipts: readonly Schemas['OwnReceipt'][];
  onSent: () => void;
}) {
  const address = useCourseApi();
  const [, setSearch] = useSearchParams();
  if (exercise.state === 'returned')
    return <Closed>The exercise has been returned and no longer takes answers.</Closed>;
  if (sheet.keyShown)
    return (
      <Closed>Its correct answers were shown when the exercise was returned, so that it is closed.</Closed>
    );
  const refused = refusedAttempt(
    { ...exercise, deadline: Date.parse(exercise.deadline) },
    Date.parse(exercise.now),
    { all: sheet.used, today: sheet.usedToday },
  );
  if (refused) return <Closed>{CLOSED[refused.code]}</Closed>;
  return (
    <HandIn
      sheet={sheet}
      rulesOf={async () => {
        const { rules } = await fetchAnswer(
          address('/exercises/{exercise}/questions/{question}/rules', {
            exercise: exercise.id,
            question: sheet.id,
          }),
        );
        return rules;
      }}
      savedUnder={exercise.id}
      earlier={receipts.filter(({ question }) => question === sheet.id)}
      cost={`This uses one of ${counted(exercise.attempts - sheet.used, 'attempt')} left.`}
      onSend={async (form, key) => {
        await send(
          'post',
          address('/exercises/{exercise}/submissions', { exercise: exercise.id }, { question: sheet.id }),
          form,
          {
            'idempotency-key': key,
          },
        );
        // The newest receipt is shown, and read next.
        setSearch({}, { replace: true });
        onSent();
      }}
    />
  );
}

const CLOSED = {
  'deadline-passed': 'The deadline has passed. Marks appear here when your instructor returns the exercise.',
  'no-attempts': 'All attempts are used. Marks appear here when your instructor returns the exercise.',
  'no-attempts-today': 'All attempts of today are used. Tomorrow there are more.',
} as const;

function Closed({ children }: { children: string }) {
  return (
    <Text py={3} color="quiet">
      {children}
    </Text>
  );
}
