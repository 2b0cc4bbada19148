import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { send, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { TextArea } from '../../kit/form/text-area.js';
import { ConfirmButton } from '../../kit/form/confirm-button.js';
import { useAction } from '../../kit/form/use-action.js';
import { KeyChanges } from './key-changes.js';

const markText = (marks: number | null): string => (marks === null ? 'none' : String(marks));

/** What a correction comes to: keys that differ, students whose marks differ, and the two ways on. */
export function CorrectionChanges({
  exercise,
  correction,
  isEdited,
  onApplied,
  onDropped,
}: {
  exercise: Schemas['ExerciseDetail'];
  correction: Schemas['CorrectionInfo'];
  /** Whether the questions on the page are others than those that were computed. */
  isEdited: boolean;
  onApplied: () => Promise<void>;
  onDropped: () => Promise<void>;
}) {
  const address = useCourseApi();
  const doing = useAction();
  const { state, problem, students, unchanged, adjusted } = correction;
  // What was computed while the page was open is read next.
  const [awaited, setAwaited] = useState(false);
  if (state === 'waiting' && !awaited) setAwaited(true);
  const [notice, setNotice] = useState('');
  const [takenBack, setTakenBack] = useState<readonly string[]>([]);
  const drop = () =>
    doing.run(async () => {
      await send('delete', address('/exercises/{exercise}/correction', { exercise: exercise.id }));
      await onDropped();
    });
  const apply = () =>
    doing.run(async () => {
      await send('post', address('/exercises/{exercise}/correction/apply', { exercise: exercise.id }), {
        notice,
        takenBack,
      });
      await onApplied();
    });
  return (
    <Box mt={4} borderLeft="3px solid" borderColor="accent" pl={5} py={1} data-correction={state}>
      {state === 'waiting' ? <Text role="status">Keys and marks are being computed …</Text> : null}
      {state === 'failed' ? <ErrorMessage>{problem?.message}</ErrorMessage> : null}
      {state === 'ready' ? (
        <>
          <Subtitle arrives={awaited}>What would change</Subtitle>
          <KeyChanges exercise={exercise} correction={correction} />
          <MarkChanges exercise={exercise} students={students} />
          <Text mt={2} fontSize="14px" color="quiet">
            {students.length === 0
              ? `No marks change: ${counted(unchanged, 'student has', 'students have')} the same.`
              : `${counted(unchanged, 'student keeps', 'students keep')} the same marks.`}
          </Text>
          <Adjusted exercise={exercise} adjusted={adjusted} takenBack={takenBack} onChange={setTakenBack} />
          {isEdited ? null : (
            <>
              <Subtitle>What students read of it</Subtitle>
              <TextArea
                label="What students read of the correction"
                placeholder="What was wrong, and what holds now: students read this above the brief"
                value={notice}
                onChange={setNotice}
              />
            </>
          )}
        </>
      ) : null}
      <Flex mt={3} gap={3} align="center" wrap="wrap">
        {state === 'ready' && !isEdited ? (
          <ConfirmButton
            text="Apply the correction"
            consequence={`Marks are then as listed, ${exercise.state === 'returned' ? 'students get new receipts' : 'receipts that change are issued again'}, and they read your note.`}
            busy={doing.busy}
            onConfirm={apply}
          />
        ) : null}
        {state === 'ready' && isEdited ? (
          <Text fontSize="14px">You have changed the questions since: compute what changes first.</Text>
        ) : null}
        <TextAction onClick={drop}>Discard the correction</TextAction>
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

/** Answers whose marks by hand stand in the way of the correction's, each of which can be let go. */
function Adjusted({
  exercise,
  adjusted,
  takenBack,
  onChange,
}: {
  exercise: Schemas['ExerciseDetail'];
  adjusted: Schemas['CorrectionInfo']['adjusted'];
  takenBack: readonly string[];
  onChange: (next: readonly string[]) => void;
}) {
  if (adjusted.length === 0) return null;
  const place = (id: string) => exercise.sheets.findIndex((sheet) => sheet.id === id) + 1;
  return (
    <Box mt={3}>
      <Subtitle>Marks given by hand</Subtitle>
      <Text fontSize="14px" color="quiet">
        They stay as they were given, although the correction finds other marks than before. Choose those that
        the correction is to decide.
      </Text>
      <Ruled
        label="Marks given by hand"
        headings={[
          { text: 'student' },
          { text: 'where' },
          { text: 'given', numeric: true },
          { text: 'found now', numeric: true },
          { text: 'corrected', numeric: true },
          { text: 'let the correction decide' },
        ]}
      >
        {adjusted.map(({ submission, person, question, given, found }) => (
          <tr key={submission}>
            <Cell strong>{person.name}</Cell>
            <Cell quiet>question {place(question)}</Cell>
            <Cell numeric>{markText(given)}</Cell>
            <Cell numeric>{markText(found.before)}</Cell>
            <Cell numeric>{markText(found.after)}</Cell>
            <Cell>
              <input
                type="checkbox"
                aria-label={`let the correction decide the marks of ${person.name}`}
                checked={takenBack.includes(submission)}
                onChange={({ target }) =>
                  onChange(
                    target.checked
                      ? [...takenBack, submission]
                      : takenBack.filter((one) => one !== submission),
                  )
                }
              />
            </Cell>
          </tr>
        ))}
      </Ruled>
    </Box>
  );
}

function MarkChanges({
  exercise,
  students,
}: {
  exercise: Schemas['ExerciseDetail'];
  students: Schemas['CorrectionInfo']['students'];
}) {
  if (students.length === 0) return null;
  const place = (id: string) => exercise.sheets.findIndex((sheet) => sheet.id === id) + 1;
  return (
    <Ruled
      label="Marks that change"
      headings={[
        { text: 'student' },
        { text: 'where' },
        { text: 'marks now', numeric: true },
        { text: 'corrected', numeric: true },
      ]}
    >
      {students.map(({ person, marks, answers }) => (
        <tr key={person.id}>
          <Cell strong>{person.name}</Cell>
          <Cell quiet>
            {answers
              .map(
                (answer) =>
                  `question ${place(answer.question)}: ${markText(answer.marks.before)} → ${markText(answer.marks.after)}`,
              )
              .join('; ')}
          </Cell>
          <Cell numeric>{markText(marks.before)}</Cell>
          <Cell numeric>{markText(marks.after)}</Cell>
        </tr>
      ))}
    </Ruled>
  );
}
