import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { writeSpreadsheetCsv } from '@modest-sieve/core/data';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { DropArea } from '../kit/form/drop-area.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';
import { saveFile } from '../kit/form/save-file.js';

type Preview = Schemas['RosterPreview'];

/** Invites a whole class from a file: shown line by line first, then with a link for each person. */
export function Roster() {
  const address = useCourseApi();
  const doing = useAction();
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [result, setResult] = useState<Schemas['RosterResult'] | null>(null);
  const look = (dropped: File) =>
    doing.run(async () => {
      setResult(null);
      setPreview(null);
      setPreview(await send('post', address('/roster/preview'), formOf(dropped)));
      setFile(dropped);
    });
  const invite = (roster: File) =>
    doing.run(async () => {
      setResult(await send('post', address('/roster'), formOf(roster)));
      setPreview(null);
    });
  return (
    <Box>
      <Subtitle>Import a class list</Subtitle>
      <DropArea label="Choose a class list" onFile={look} disabled={doing.busy}>
        or drop a class list here: CSV with the columns name and address, and perhaps role.
      </DropArea>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      {preview && file ? (
        <>
          <Lines preview={preview} />
          <Flex mt={4} gap={4} align="center">
            <Action
              busy={doing.busy}
              disabled={preview.lines.some((line) => line.what === 'refused')}
              onClick={() => invite(file)}
            >
              Invite {counted(comers(preview), 'person', 'people')}
            </Action>
            <TextAction onClick={() => setPreview(null)}>Leave it</TextAction>
          </Flex>
        </>
      ) : null}
      {result ? <Links result={result} /> : null}
    </Box>
  );
}

function formOf(file: File): FormData {
  const form = new FormData();
  form.set('file', file);
  return form;
}

const comers = ({ lines }: Preview) =>
  lines.filter((line) => line.what === 'invited' || line.what === 'invited again').length;

function Lines({ preview }: { preview: Preview }) {
  return (
    <Box mt={3} maxH="340px" overflowY="auto">
      <Ruled
        label="Lines of the class list"
        headings={[{ text: 'line', numeric: true }, { text: 'name' }, { text: 'what follows' }]}
      >
        {preview.lines.map((line) => (
          <tr key={line.line}>
            <Cell numeric quiet>
              {line.line}
            </Cell>
            <Cell>
              {line.name} <Text color="quiet">{line.email}</Text>
            </Cell>
            <Cell>
              {line.problem === null ? (
                `${line.what}${line.role === 'assistant' ? ', as assistant' : ''}`
              ) : (
                <Text color="fails">
                  <span aria-hidden>✕ </span>
                  {line.problem}
                </Text>
              )}
            </Cell>
          </tr>
        ))}
      </Ruled>
    </Box>
  );
}

function Links({ result }: { result: Schemas['RosterResult'] }) {
  const save = () => {
    const rows = result.links.map(({ name, email, path }) => [name, email, `${location.origin}${path}`]);
    saveFile('links.csv', writeSpreadsheetCsv(['name', 'address', 'link'], rows), 'text/csv');
  };
  return (
    <Box mt={4} role="status">
      <Text>{counted(result.invited, 'person is', 'people are')} invited.</Text>
      {result.links.length > 0 ? (
        <>
          <Text mt={2} fontSize="14px" color="quiet">
            Hand each person their own link. The links are shown only here and work for sixty days; somebody
            who has an account with the address sees the invitation when they sign in.
          </Text>
          <Box mt={3}>
            <Action plain onClick={save}>
              Save the links as CSV
            </Action>
          </Box>
        </>
      ) : null}
    </Box>
  );
}
