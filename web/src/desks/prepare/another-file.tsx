import { Box, Flex } from '@chakra-ui/react';
import { useState } from 'react';
import { send, useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { ImportLine } from '../../data/import-line.js';
import { usePastedTable } from '../../data/pasted.js';
import { Action, TextAction } from '../../kit/form/action.js';
import { DropArea } from '../../kit/form/drop-area.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useAction } from '../../kit/form/use-action.js';
import { useDataSet } from '../use-data-set.js';

const WAYS = {
  replace: 'in the place of the raw table',
  append: 'below its rows',
  join: 'beside its columns',
} as const;
type Way = keyof typeof WAYS;

const WORDS: Record<Way, string> = {
  replace:
    'or drop next year’s records here: the same steps are done on them, and say where they no longer fit.',
  append: 'or drop more records here: their rows come below those that are there.',
  join: 'or drop a file here with more columns for the same rows: they come beside those that are there.',
};

/** Another file for the same steps: in the place of the raw table, below its rows, or beside its columns. */
export function AnotherFile() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const [way, setWay] = useState<Way>('replace');
  const [key, setKey] = useState('');
  const list = useAnswer(address('/data-sets'));
  const ours = list.data?.imports.filter(({ intoId }) => intoId === dataSet.id) ?? [];
  const lacksKey = way === 'join' && key === '';
  const names = dataSet.profile.map(({ name }) => name);
  const bring = (file: File) => {
    if (doing.busy || lacksKey) return;
    doing.run(async () => {
      const form = new FormData();
      form.set('file', file);
      await send(
        'post',
        address(
          '/data-sets/{dataSet}/raw',
          { dataSet: dataSet.address },
          way === 'replace' ? {} : way === 'join' ? { how: way, key } : { how: way },
        ),
        form,
      );
    });
  };
  // A table pasted here would take the place of the raw one: it waits until that is meant.
  const [pasted, setPasted] = useState<File | null>(null);
  usePastedTable(setPasted);
  return (
    <Box maxW="640px">
      <Subtitle>Another raw file</Subtitle>
      <PlanSentence label="How another file is taken">
        Put another file{' '}
        <PlanChoice
          label="where it goes"
          value={way}
          choices={Object.entries(WAYS).map(([value, text]) => ({ value, text }))}
          onChange={(value) => setWay(value as Way)}
        />
        {way === 'join' ? (
          <>
            , by{' '}
            <PlanChoice
              label="key"
              value={key}
              choices={[
                { value: '', text: 'which column?' },
                ...names.map((value) => ({ value, text: value })),
              ]}
              onChange={setKey}
            />
          </>
        ) : null}
        .
      </PlanSentence>
      <Box mt={2}>
        <DropArea label="Import a new raw file" disabled={doing.busy || lacksKey} onFile={bring}>
          {doing.busy ? 'Sending …' : WORDS[way]}
        </DropArea>
      </Box>
      {pasted ? (
        <Flex mt={3} gap={4} align="center">
          <Action
            busy={doing.busy}
            disabled={lacksKey}
            onClick={() => {
              setPasted(null);
              bring(pasted);
            }}
          >
            Take the pasted table
          </Action>
          <TextAction onClick={() => setPasted(null)}>Leave it</TextAction>
        </Flex>
      ) : null}
      {ours.map((item) => (
        <ImportLine key={item.id} item={item} />
      ))}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
