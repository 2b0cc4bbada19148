import { Box, Text } from '@chakra-ui/react';
import { shortNumber } from '@modest-sieve/core/foundation';
import { useSearchParams } from 'react-router';
import { useAnswer, type Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { arrive } from '../../kit/layout/arrive.js';
import { holdCount } from '../../kit/layout/checks.js';
import { figureText, momentText, ordinal } from '../../kit/table/format.js';
import { Answer } from '../../kit/answer/states.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { AgainstEarlier } from './against-earlier.js';
import { Receipt } from './receipt.js';
import { saidIn } from '../common/said.js';

export function Receipts({
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
  const found = useAnswer(
    address('/exercises/{exercise}/receipts/{submission}', { exercise: exercise.id, submission: line.id }),
  );
  const sheet = exercise.sheets.find(({ id }) => id === line.question) ?? null;
  return (
    <>
      <Text fontSize="13.5px" color="quiet" overflowWrap="anywhere">
        {momentText(line.receivedAt, timeZone)}
        {line.fileName === null ? null : (
          <>
            {' · '}
            <a
              href={address('/exercises/{exercise}/receipts/{submission}/file', {
                exercise: exercise.id,
                submission: line.id,
              })}
            >
              {line.fileName}
            </a>
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
