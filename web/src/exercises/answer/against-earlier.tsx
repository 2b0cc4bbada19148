import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import useSWRImmutable from 'swr/immutable';
import { fetchAnswer, fetchFile, useAnswer, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { compareFiles } from '../../check/check-file.js';
import type { HandedIn } from '../../check/check.worker.js';
import { ordinal } from '../../kit/table/format.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { Answer } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { saidIn } from '../common/said.js';

type Receipt = Schemas['ReceiptInfo'];

/** What a student changed since an earlier answer of their own to the same question. */
export function AgainstEarlier({
  receipt,
  earlier,
  sheet,
  exerciseId,
}: {
  receipt: Receipt;
  /** Checked answers to the same question, the latest first. */
  earlier: readonly Schemas['OwnReceipt'][];
  sheet: Schemas['QuestionSheet'];
  exerciseId: string;
}) {
  const [chosen, choose] = useState('');
  const other = earlier.find(({ id }) => id === chosen);
  return (
    <Box mt={4}>
      <PlanSentence label="Comparison with an earlier answer">
        Compared with{' '}
        <PlanChoice
          label="earlier answer"
          value={chosen}
          choices={[
            { value: '', text: 'an earlier answer …' },
            ...earlier.map(({ id, number }) => ({ value: id, text: `your ${ordinal(number)} answer` })),
          ]}
          onChange={choose}
        />
      </PlanSentence>
      {other ? <Changed receipt={receipt} id={other.id} sheet={sheet} exerciseId={exerciseId} /> : null}
    </Box>
  );
}

function Changed({
  receipt,
  id,
  sheet,
  exerciseId,
}: {
  receipt: Receipt;
  id: string;
  sheet: Schemas['QuestionSheet'];
  exerciseId: string;
}) {
  const address = useCourseApi();
  const found = useAnswer(
    address('/exercises/{exercise}/receipts/{submission}', { exercise: exerciseId, submission: id }),
  );
  return (
    <Answer of={found} what="the earlier answer">
      {(other) => (
        <>
          <FieldChanges receipt={receipt} other={other} sheet={sheet} />
          {sheet.fileAbout && receipt.sha256 !== null && other.sha256 !== null ? (
            <FileChanges receipt={receipt} other={other} sheet={sheet} exerciseId={exerciseId} />
          ) : null}
        </>
      )}
    </Answer>
  );
}

function FieldChanges({
  receipt,
  other,
  sheet,
}: {
  receipt: Receipt;
  other: Receipt;
  sheet: Schemas['QuestionSheet'];
}) {
  const before = saidIn(sheet, other.fields);
  const changes = saidIn(sheet, receipt.fields).flatMap(({ label, text }) => {
    const was = before.find((one) => one.label === label)?.text ?? '';
    return was === text ? [] : [{ name: label, before: was, after: text }];
  });
  if (sheet.fields.length === 0) return null;
  if (changes.length === 0)
    return (
      <Text mt={1} fontSize="14px">
        Nothing that was typed or chosen differs.
      </Text>
    );
  return <Changes label="What was typed or chosen differently" changes={changes} />;
}

function FileChanges({
  receipt,
  other,
  sheet: { id: question, kind },
  exerciseId,
}: {
  receipt: Receipt;
  other: Receipt;
  sheet: Pick<Schemas['QuestionSheet'], 'id' | 'kind'>;
  exerciseId: string;
}) {
  const address = useCourseApi();
  const found = useSWRImmutable(['compare', other.id, receipt.id], async () => {
    const handedIn = async ({ id, fileName, fields }: Receipt): Promise<HandedIn> => ({
      name: fileName ?? 'the file',
      bytes: await fetchFile(
        address('/exercises/{exercise}/receipts/{submission}/file', { exercise: exerciseId, submission: id }),
      ),
      fields,
    });
    const { rules } = await fetchAnswer(
      address('/exercises/{exercise}/questions/{question}/rules', { exercise: exerciseId, question }),
    );
    return compareFiles({
      kind,
      rules,
      before: await handedIn(other),
      after: await handedIn(receipt),
    });
  });
  if (found.error)
    return <ErrorMessage>The files could not be compared. Choose the answer again.</ErrorMessage>;
  if (found.data === undefined)
    return (
      <Text mt={1} role="status" color="quiet" fontSize="14px">
        Comparing the files …
      </Text>
    );
  if (found.data === null) return null;
  const { of, changed, examples } = found.data;
  return (
    <>
      <Text mt={1} fontSize="14px">
        {changed === 0
          ? `None of the ${counted(of, 'line')} of the file differs.`
          : `${counted(changed, 'line')} of ${of} ${changed === 1 ? 'differs' : 'differ'}.`}
      </Text>
      {changed > 0 ? (
        <Changes
          label={changed > examples.length ? `The first ${examples.length} of them` : 'Lines that differ'}
          changes={examples}
        />
      ) : null}
    </>
  );
}

function Changes({
  label,
  changes,
}: {
  label: string;
  changes: readonly { readonly name: string; readonly before: string; readonly after: string }[];
}) {
  return (
    <Ruled label={label} headings={[{ text: label, wraps: true }, { text: 'before' }, { text: 'now' }]}>
      {changes.map(({ name, before, after }) => (
        <tr key={name}>
          <Cell mono>{name}</Cell>
          <Cell quiet>{before}</Cell>
          <Cell>{after}</Cell>
        </tr>
      ))}
    </Ruled>
  );
}
