import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import type { Address } from '../../../api/address.js';
import { fetchFile } from '../../../api/client.js';
import { DropArea } from '../../../kit/form/drop-area.js';
import { saveFile } from '../../../kit/form/save-file.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { useAction } from '../../../kit/form/use-action.js';

const NEW_LINE = 10;

/** What a run says of the rows of another table, handed out as CSV. */
export function PredictTable({ url }: { url: Address }) {
  const doing = useAction();
  const [rows, setRows] = useState<number | null>(null);
  return (
    <Box mt={6}>
      <Subtitle>A table of cases</Subtitle>
      <DropArea
        label="Predict a table"
        onFile={(file) =>
          doing.run(async () => {
            setRows(null);
            const form = new FormData();
            form.set('file', file);
            const csv = await fetchFile(url, form);
            saveFile('predictions.csv', csv, 'text/csv');
            // A line for each row below the header: no cell of these files holds the end of a line.
            setRows(csv.filter((byte) => byte === NEW_LINE).length - 1);
          })
        }
      >
        or drop it here: rows with the columns of the model, without the target. Predictions come back as CSV.
      </DropArea>
      {doing.busy ? (
        <Text role="status" mt={2} color="quiet">
          The rows are being predicted …
        </Text>
      ) : null}
      {rows === null ? null : (
        <Text role="status" mt={2}>
          predictions.csv is in your downloads: {counted(rows, 'row')}.
        </Text>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
