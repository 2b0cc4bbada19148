import { Box, Flex, Text } from '@chakra-ui/react';
import { allHold, counted, exampleHeader, LARGEST_PREDICTIONS } from '@modest-sieve/core';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { checkFile } from '../check/check-file.js';
import type { CheckAnswer } from '../check/check.worker.js';
import { Action, TextAction } from '../kit/action.js';
import { CheckList } from '../kit/checks.js';
import { DropArea } from '../kit/drop-area.js';
import { sizeText } from '../kit/format.js';
import { Complaint } from '../kit/states.js';
import { useDoing } from '../kit/use-doing.js';

interface Dropped {
  readonly file: File;
  /** Null while the file is being checked. */
  readonly found: CheckAnswer | null;
  /** The same for every sending of this dropping, so that a second click sends nothing new. */
  readonly key: string;
}

/** Where a student drops a file: it is checked here first, and sent only when every check holds. */
export function HandIn({
  exercise,
  rules,
  left,
}: {
  exercise: Schemas['ExerciseDetail'];
  rules: Schemas['PredictionRules'];
  left: number;
}) {
  const address = useCourseApi();
  const doing = useDoing();
  const [dropped, setDropped] = useState<Dropped | null>(null);
  const take = (file: File) => {
    doing.clear();
    const key = Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) =>
      byte.toString(16).padStart(2, '0'),
    ).join('');
    setDropped({ file, found: null, key });
    void checkFile(file, rules).then((found) =>
      setDropped((now) => (now?.key === key ? { ...now, found } : now)),
    );
  };
  const handIn = ({ file, key }: Dropped) =>
    doing.run(async () => {
      const form = new FormData();
      form.set('file', file);
      await send('POST', address('exercises', exercise.id, 'submissions'), form, { 'idempotency-key': key });
      setDropped(null);
    });

  if (!dropped) {
    return (
      <DropArea label="Hand in a file" onFile={take}>
        or drop it here: CSV with the columns{' '}
        <Text as="span" fontFamily="mono">
          {exampleHeader(rules).join(', ')}
        </Text>
        , {counted(rules.identifiers.length, 'row')}, up to {sizeText(LARGEST_PREDICTIONS)}. It is checked
        before anything is sent.
      </DropArea>
    );
  }
  const { file, found } = dropped;
  const holds = found !== null && allHold(found.checks);
  return (
    <Box
      border="1px dashed"
      borderColor="quiet"
      bg="sheet"
      borderRadius="4px"
      px={5}
      py={4}
      data-precheck={found ? (holds ? 'holds' : 'fails') : 'running'}
    >
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
        <TextAction onClick={() => setDropped(null)}>Choose another</TextAction>
      </Flex>
      {found ? <CheckList label="What was found in the file" checks={found.checks} /> : null}
      {holds ? (
        <Flex mt={4} gap={4} align="center" wrap="wrap">
          <Action busy={doing.busy} onClick={() => handIn(dropped)}>
            Hand in
          </Action>
          <Text fontSize="13.5px" color="quiet">
            This uses one of {counted(left, 'attempt')} left.
          </Text>
        </Flex>
      ) : found ? (
        <Text mt={3} fontSize="13.5px" color="quiet">
          Mend this and drop the file again. No attempt has been used.
        </Text>
      ) : null}
      <Complaint>{doing.problem?.message}</Complaint>
    </Box>
  );
}
