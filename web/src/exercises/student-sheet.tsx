import { Box, Flex, Text } from '@chakra-ui/react';
import { counted, shortNumber } from '@modest-sieve/core/foundation';
import { deadlineText, lateWords, refusedAttempt } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/form/action.js';
import { arrive } from '../kit/layout/arrive.js';
import { holdCount } from '../kit/layout/checks.js';
import { figureText, fromNow, momentText, ordinal } from '../kit/table/format.js';
import { Brief } from '../kit/layout/markdown.js';
import { Answer } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { AgainstEarlier } from './against-earlier.js';
import { FromAProgram } from './from-a-program.js';
import { HandIn } from './hand-in.js';
import { PackLine } from './pack-line.js';
import { feedbackWords } from './policy-sentence.js';
import { QuestionView } from './question-view.js';
import { Receipt } from './receipt.js';
import { saidIn } from './said.js';

/** The exercise as a student works on it: brief, pack, a place to answer each question, and the receipts so far. */
export function StudentSheet({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const { timeZone } = useCourse();
  const address = useCourseApi();
  const [search, setSearch] = useSearchParams();
  const before = search.get('before');
  const receipts = useAnswer<'ReceiptPage'>(
    `${address('exercises', exercise.id, 'receipts')}${before === null ? '' : `?before=${before}`}`,
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
                exercise.sheets.map(({ kind }) => kind),
              )}
              .
            </Text>
          ) : null}
          {exercise.notice === '' ? null : (
            <Box mt={3} px={4} py={2} borderLeft="3px solid" borderColor="unsure" bg="sheet" role="note">
              <b>Changed:</b> {exercise.notice}
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
      <Closed>Its right answers were shown when the exercise was returned, so that it is closed.</Closed>
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
      keptUnder={exercise.id}
      earlier={receipts.filter(({ question }) => question === sheet.id)}
      cost={`This uses one of ${counted(exercise.attempts - sheet.used, 'attempt')} left.`}
      onSend={async (form, key) => {
        await send('POST', `${address('exercises', exercise.id, 'submissions')}?question=${sheet.id}`, form, {
          'idempotency-key': key,
        });
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

function Receipts({
  receipts,
  exercise,
  arrives,
  onChoose,
}: {
  receipts: readonly Schemas['OwnReceipt'][];
  exercise: Schemas['ExerciseDetail'];
  /** Whether the receipt that is open takes the focus. */
  arrives: boolean;
  onChoose: () => void;
}) {
  const { timeZone } = useCourse();
  const [search, setSearch] = useSearchParams();
  const chosen = receipts.find((receipt) => receipt.id === search.get('receipt')) ?? receipts[0];
  const placeOf = (id: string) => exercise.sheets.findIndex((sheet) => sheet.id === id) + 1;
  const many = exercise.sheets.length > 1;
  if (!chosen) {
    return (
      <>
        <Subtitle>Your receipts</Subtitle>
        <Text color="quiet">
          Nothing handed in yet. A receipt says when your answer arrived, which checks hold, and what may be
          shown of its score.
        </Text>
      </>
    );
  }
  const earlier = receipts.filter(
    ({ question, number, outcome }) =>
      question === chosen.question && number < chosen.number && outcome === 'checked',
  );
  return (
    <>
      <Box
        key={`title of ${chosen.id}`}
        id="receipt"
        ref={arrives ? arrive : null}
        tabIndex={-1}
        outline="none"
      >
        <Subtitle>
          Receipt of your {ordinal(chosen.number)} answer
          {many ? ` to question ${placeOf(chosen.question)}` : ''}
        </Subtitle>
      </Box>
      <OpenReceipt key={chosen.id} line={chosen} earlier={earlier} exercise={exercise} />
      <Box mt={5}>
        <Ruled
          label="Your answers"
          headings={[
            { text: 'answer' },
            { text: 'handed in' },
            { text: 'checks' },
            { text: 'score', numeric: true },
            { text: 'marks', numeric: true },
          ]}
        >
          {receipts.map((receipt) => (
            <tr key={receipt.id}>
              <Cell strong={receipt.id === chosen.id}>
                <TextAction
                  label={`${many ? `${placeOf(receipt.question)} · ` : ''}${ordinal(receipt.number)} answer`}
                  onClick={() => {
                    onChoose();
                    setSearch(
                      (now) => {
                        now.set('receipt', receipt.id);
                        return now;
                      },
                      { replace: true },
                    );
                  }}
                >
                  {many ? `${placeOf(receipt.question)} · ` : ''}
                  {ordinal(receipt.number)}
                </TextAction>
              </Cell>
              <Cell nowrap>{momentText(receipt.receivedAt, timeZone)}</Cell>
              <Cell nowrap>
                {receipt.checks ? holdCount(receipt.checks.hold, receipt.checks.of) : receipt.outcome}
              </Cell>
              <Cell numeric>{shownScore(receipt)}</Cell>
              <Cell numeric>{receipt.marks ?? '–'}</Cell>
            </tr>
          ))}
        </Ruled>
      </Box>
    </>
  );
}

/** One receipt with everything that may be shown of it. */
function OpenReceipt({
  line,
  earlier,
  exercise,
}: {
  line: Schemas['OwnReceipt'];
  earlier: readonly Schemas['OwnReceipt'][];
  exercise: Schemas['ExerciseDetail'];
}) {
  const { timeZone } = useCourse();
  const address = useCourseApi();
  const found = useAnswer<'ReceiptInfo'>(address('exercises', exercise.id, 'receipts', line.id));
  const sheet = exercise.sheets.find(({ id }) => id === line.question) ?? null;
  return (
    <>
      <Text fontSize="13.5px" color="quiet" overflowWrap="anywhere">
        {momentText(line.receivedAt, timeZone)}
        {line.fileName === null ? null : (
          <>
            {' · '}
            <a href={address('exercises', exercise.id, 'receipts', line.id, 'file')}>{line.fileName}</a>
          </>
        )}
        {found.data?.sha256 ? (
          <>
            {' · '}
            <Text as="span" fontFamily="mono" title={`SHA-256 ${found.data.sha256}`}>
              {found.data.sha256.slice(0, 4)}…{found.data.sha256.slice(-4)}
            </Text>
          </>
        ) : null}
      </Text>
      <Answer of={found} what="the receipt">
        {(receipt) => (
          <>
            <Typed fields={receipt.fields} sheet={sheet} />
            <Receipt
              outcome={receipt.outcome}
              disclosed={receipt.disclosed}
              problem={receipt.problem}
              sheet={sheet}
            />
            {sheet && receipt.outcome === 'checked' && earlier.length > 0 ? (
              <AgainstEarlier receipt={receipt} earlier={earlier} sheet={sheet} exerciseId={exercise.id} />
            ) : null}
          </>
        )}
      </Answer>
    </>
  );
}

/** What was typed or chosen. */
function Typed({
  fields,
  sheet,
}: {
  fields: Record<string, string>;
  sheet: Schemas['QuestionSheet'] | null;
}) {
  const said = sheet ? saidIn(sheet, fields).map(({ label, text }) => `${label}: ${text}`) : [];
  if (said.length === 0) return null;
  return (
    <Text mt={1} fontSize="13.5px">
      {said.join('; ')}
    </Text>
  );
}

function shownScore({ final, feedback, notBetter }: Schemas['OwnReceipt']): string {
  if (final !== null) return figureText(final);
  if (feedback) {
    const { score, rounded } = feedback;
    return rounded && score !== null ? `about ${shortNumber(score)}` : figureText(score);
  }
  return notBetter ? 'not better' : '–';
}
