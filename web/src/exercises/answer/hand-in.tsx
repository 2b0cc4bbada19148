import { Box, Flex, Text } from '@chakra-ui/react';
import { allHold, counted } from '@modest-sieve/core/foundation';
import { checkFields, columnField } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../../api/client.js';
import { checkFile } from '../../check/check-file.js';
import type { CheckAnswer } from '../../check/check.worker.js';
import { digestOf } from '../../check/digest.js';
import { Action, TextAction } from '../../kit/form/action.js';
import { CheckList } from '../../kit/layout/checks.js';
import { DropArea } from '../../kit/form/drop-area.js';
import { ordinal, sizeText } from '../../kit/table/format.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { useAction } from '../../kit/form/use-action.js';
import { AnswerFields, type Fields } from './answer-fields.js';
import { TriedModelView } from './model-view.js';
import { fieldsIn } from '../common/saved-fields.js';
import { useSaved } from '../common/use-saved.js';

type Rules = Schemas['Rules'];

interface Dropped {
  readonly file: File;
  /** Null while the file is being checked. */
  readonly found: CheckAnswer | null;
  /** What was found before something beside the file was changed; null where nothing was. */
  readonly before: CheckAnswer | null;
  readonly key: string;
}

/** An answer that was handed in before. */
interface Earlier {
  readonly number: number;
  readonly sha256: string | null;
}

/** A form with an answer, and the key under which it is sent. */
export type SendAnswer = (form: FormData, idempotencyKey: string) => Promise<void>;

const newKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join(
    '',
  );

/** Where a question is answered: a file is checked here first, and sent only when every check holds. */
export function HandIn({
  sheet,
  savedUnder,
  cost,
  earlier = [],
  onSend,
  rulesOf,
}: {
  sheet: Schemas['QuestionSheet'];
  /** Asks for the rules of the file, once one is chosen. */
  rulesOf: () => Promise<Rules>;
  /** Names what is typed, so that it outlasts a reload. */
  savedUnder: string;
  /** What handing in costs, as a sentence. */
  cost: string;
  /** Answers to the question so far, with the SHA-256 of their files. */
  earlier?: readonly Earlier[];
  onSend: SendAnswer;
}) {
  const doing = useAction();
  const [dropped, setDropped] = useState<Dropped | null>(null);
  const [values, setValues, letGo] = useSaved<Fields>(`answer ${savedUnder} ${sheet.id}`, NOTHING, fieldsIn);
  /** The same for every sending of one answer, so that a second click sends nothing new. */
  const [key, setKey] = useState(newKey);
  const [asked, setAsked] = useState(false);
  const [digest, setDigest] = useState<{ readonly of: File; readonly sha256: string | null } | null>(null);
  const [rules, setRules] = useState<Rules | null>(null);
  /** Why a file could not be checked at all. */
  const [unchecked, setUnchecked] = useState<string | null>(null);
  const { file: wanted, fields } = sheet;
  const needsFile = wanted !== null && !wanted.optional;

  const take = (file: File, beside: Fields = values) => {
    doing.clear();
    setUnchecked(null);
    const next = newKey();
    setKey(next);
    // Where the file cannot be read the check says so.
    digestOf(file).then(
      (sha256) => setDigest({ of: file, sha256 }),
      () => setDigest(null),
    );
    setDropped((now) => ({ file, found: null, key: next, before: now?.file === file ? now.found : null }));
    const check = async () => {
      const by = rules ?? (await rulesOf());
      setRules(by);
      const found = await checkFile(file, sheet.kind, by, beside);
      setDropped((now) => (now?.key === next ? { ...now, found } : now));
    };
    check().catch((problem: unknown) => {
      setDropped((now) => (now?.key === next ? null : now));
      setUnchecked(problem instanceof Error ? problem.message : String(problem));
    });
  };
  const found = dropped?.found ?? null;
  const tried = (found ?? dropped?.before)?.model ?? null;
  // A digest that comes late may be of a file that another has taken the place of.
  const sha256 = digest?.of === dropped?.file ? (digest?.sha256 ?? null) : null;
  const same = sha256 === null ? undefined : earlier.find((one) => one.sha256 === sha256);
  const faults = checkFields(fields, values);
  const fileHolds = !needsFile || (found !== null && allHold(found.checks));
  const ready = fileHolds && faults.length === 0;
  const handIn = () => {
    setAsked(true);
    if (!ready) return;
    doing.run(async () => {
      const form = new FormData();
      if (dropped && needsFile) form.set('file', dropped.file);
      form.set('fields', JSON.stringify(values));
      await onSend(form, key);
      letGo();
      setDropped(null);
      setAsked(false);
      setKey(newKey());
    });
  };

  return (
    <Box data-precheck={found ? (allHold(found.checks) ? 'holds' : 'fails') : dropped ? 'running' : 'none'}>
      {needsFile && !dropped ? <Wanted sheet={sheet} onFile={take} /> : null}
      {dropped ? <Found dropped={dropped} onAnother={() => setDropped(null)} /> : null}
      {dropped && tried && rules && 'takes' in rules ? (
        <TriedModelView
          tried={tried}
          rules={rules}
          onColumn={(input, column) => {
            const next = { ...values, [columnField(input)]: column };
            setValues(next);
            take(dropped.file, next);
          }}
        />
      ) : null}
      {fields.length > 0 ? (
        <AnswerFields
          fields={fields}
          values={values}
          name={`${savedUnder} ${sheet.id}`}
          onChange={(next) => {
            setValues(next);
            setKey(newKey());
          }}
        />
      ) : null}
      {asked && faults.length > 0 ? (
        <CheckList label="What is still to be corrected" checks={faults} />
      ) : null}
      {!needsFile || fileHolds ? (
        <Flex mt={4} gap={4} align="center" wrap="wrap">
          {same ? (
            <Text flexBasis="100%" role="status">
              <b>This is the file of your {ordinal(same.number)} answer</b>, byte for byte: it would be
              checked with the same result.
            </Text>
          ) : null}
          <Action busy={doing.busy} onClick={handIn}>
            Hand in
          </Action>
          <Text fontSize="13.5px" color="quiet">
            {cost}
          </Text>
        </Flex>
      ) : found ? (
        <Text mt={3} fontSize="13.5px" color="quiet">
          Correct this and drop the file again. No attempt has been used.
        </Text>
      ) : null}
      <ErrorMessage>{unchecked ?? doing.problem?.message}</ErrorMessage>
      {doing.problem?.code === 'signed-out' ? (
        <Link to="/">Sign in again: what you have typed is saved.</Link>
      ) : null}
    </Box>
  );
}

const NOTHING: Fields = {};

function Wanted({ sheet, onFile }: { sheet: Schemas['QuestionSheet']; onFile: (file: File) => void }) {
  const { file, fileAbout } = sheet;
  const rows = fileAbout?.rows ?? null;
  return (
    <DropArea label="Hand in a file" onFile={onFile}>
      or drop it here:{' '}
      {file && file.columns.length > 0 ? (
        <>
          CSV with the columns{' '}
          <Text as="span" fontFamily="mono">
            {file.columns.join(', ')}
          </Text>
        </>
      ) : (
        file?.forms.join(', ')
      )}
      {rows === null ? '' : `, ${counted(rows, 'row')}`}, up to {sizeText(fileAbout?.bytes ?? 0)}
      {file && file.columns.length > 0 ? file.forms.map((form) => `; ${form}`).join('') : ''}. It is checked
      before anything is sent.
    </DropArea>
  );
}

function Found({ dropped: { file, found }, onAnother }: { dropped: Dropped; onAnother: () => void }) {
  return (
    <Box border="1px dashed" borderColor="quiet" bg="sheet" borderRadius="4px" px={5} py={4}>
      <Flex justify="space-between" gap={4} align="baseline">
        <Text overflowWrap="anywhere">
          <Text as="b" fontFamily="mono">
            {file.name}
          </Text>{' '}
          <Text as="span" fontSize="13.5px" color="quiet">
            {found
              ? `${found.rows === null ? sizeText(file.size) : counted(found.rows, 'row')}, read in ${Math.ceil(found.milliseconds)} ms, nothing sent yet`
              : 'is being checked …'}
          </Text>
        </Text>
        <TextAction onClick={onAnother}>Choose another</TextAction>
      </Flex>
      {found ? <CheckList label="What was found in the file" checks={found.checks} /> : null}
    </Box>
  );
}
