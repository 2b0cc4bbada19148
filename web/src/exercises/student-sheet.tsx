import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core';
import { useSearchParams } from 'react-router';
import { useAnswers, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/action.js';
import { holdText } from '../kit/checks.js';
import { deadlineText, figureText, fromNow, momentText, ordinal } from '../kit/format.js';
import { Brief } from '../kit/markdown.js';
import { Answer } from '../kit/states.js';
import { Cell, Ruled } from '../kit/table.js';
import { Subtitle, Title } from '../kit/title.js';
import { TwoSides } from '../kit/two-sides.js';
import { FromAProgram } from './from-a-program.js';
import { HandIn } from './hand-in.js';
import { PackLine } from './pack-line.js';
import { Receipt } from './receipt.js';

/** The exercise as a student works on it: brief, pack, a place to hand in, and the receipts so far. */
export function StudentSheet({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const { timeZone } = useCourse();
  const address = useCourseApi();
  const receipts = useAnswers<'ReceiptInfo'>(address('exercises', exercise.id, 'receipts'));
  const left = exercise.attempts - exercise.used;
  const over = exercise.deadline < exercise.now;
  return (
    <TwoSides
      left={
        <>
          <Title>{exercise.title}</Title>
          <Text mt={2} fontSize="14px" color="quiet">
            {exercise.state === 'returned' ? 'Returned · was due ' : 'Due '}
            <Text as="b" color="ink">
              {deadlineText(exercise.deadline, timeZone)}
            </Text>
            , {fromNow(exercise.deadline, exercise.now)} · {exercise.used} of{' '}
            {counted(exercise.attempts, 'attempt')} used, the {exercise.counts} counts
          </Text>
          <Box mt={4}>
            <Brief text={exercise.brief} />
          </Box>
          <PackLine exercise={exercise} />
          <Subtitle>
            1 · Hand in your predictions{' '}
            <Text as="span" fontFamily="body" fontSize="13.5px" fontWeight={400} color="quiet">
              {exercise.scheme.marks} marks
            </Text>
          </Subtitle>
          <Box mt={2}>
            {exercise.state === 'returned' ? (
              <Closed>The exercise has been returned and takes no more files.</Closed>
            ) : over ? (
              <Closed>
                The deadline has passed. Marks appear here when your instructor returns the exercise.
              </Closed>
            ) : left <= 0 ? (
              <Closed>
                All attempts are used. Marks appear here when your instructor returns the exercise.
              </Closed>
            ) : exercise.rules ? (
              <>
                <HandIn exercise={exercise} rules={exercise.rules} left={left} />
                <FromAProgram exercise={exercise} />
              </>
            ) : null}
          </Box>
        </>
      }
      right={
        <Answer of={receipts} what="your receipts">
          {(list) => <Receipts receipts={list} exercise={exercise} />}
        </Answer>
      }
    />
  );
}

function Closed({ children }: { children: string }) {
  return (
    <Text py={3} color="quiet">
      {children}
    </Text>
  );
}

function Receipts({
  receipts,
  exercise,
}: {
  receipts: readonly Schemas['ReceiptInfo'][];
  exercise: Schemas['ExerciseDetail'];
}) {
  const { timeZone } = useCourse();
  const [search, setSearch] = useSearchParams();
  const chosen = receipts.find((receipt) => receipt.id === search.get('receipt')) ?? receipts[0];
  if (!chosen) {
    return (
      <>
        <Subtitle>Your receipts</Subtitle>
        <Text color="quiet">
          Nothing handed in yet. A receipt says when your file arrived, which checks hold, and what may be
          told of its score.
        </Text>
      </>
    );
  }
  return (
    <>
      <Subtitle>Receipt of your {ordinal(chosen.number)} file</Subtitle>
      <Text fontSize="13.5px" color="quiet" overflowWrap="anywhere">
        {momentText(chosen.receivedAt, timeZone)} ·{' '}
        <Text as="span" fontFamily="mono">
          {chosen.fileName}
        </Text>{' '}
        ·{' '}
        <Text as="span" fontFamily="mono" title={`SHA-256 ${chosen.sha256}`}>
          {chosen.sha256.slice(0, 4)}…{chosen.sha256.slice(-4)}
        </Text>
      </Text>
      <Receipt receipt={chosen} scheme={exercise.scheme} />
      <Box mt={5}>
        <Ruled
          label="Your files"
          headings={[
            { text: 'file' },
            { text: 'handed in' },
            { text: 'checks that hold' },
            { text: 'score', numeric: true },
            { text: 'marks', numeric: true },
          ]}
        >
          {receipts.map((receipt) => (
            <tr key={receipt.id}>
              <Cell strong={receipt.id === chosen.id}>
                <TextAction onClick={() => setSearch({ receipt: receipt.id }, { replace: true })}>
                  {ordinal(receipt.number)}
                </TextAction>
              </Cell>
              <Cell nowrap>{momentText(receipt.receivedAt, timeZone)}</Cell>
              <Cell nowrap>{receipt.disclosed ? holdText(receipt.disclosed.checks) : receipt.outcome}</Cell>
              <Cell numeric>{shownScore(receipt)}</Cell>
              <Cell numeric>{receipt.disclosed?.final?.marks ?? '–'}</Cell>
            </tr>
          ))}
        </Ruled>
      </Box>
    </>
  );
}

function shownScore({ disclosed }: Schemas['ReceiptInfo']): string {
  if (disclosed?.final) return figureText(disclosed.final.score);
  return disclosed?.feedback ? `about ${disclosed.feedback.score ?? '–'}` : '–';
}
