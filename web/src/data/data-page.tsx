import { Box, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { FORMATS } from '@modest-sieve/core/data';
import { Link } from 'react-router';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { DropArea } from '../kit/form/drop-area.js';
import { momentText } from '../kit/table/format.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';
import { ImportLine } from './import-line.js';
import { usePastedTable } from './pasted.js';
import { useSending } from './use-sending.js';

/** The course's data sets, and the place to drop a new one. */
export function DataPage() {
  const address = useCourseApi();
  const list = useAnswer(address('/data-sets'));
  const sending = useSending(address('/data-sets'));
  const bring = sending.send;
  usePastedTable(bring);
  return (
    <>
      <Title>Data</Title>
      <Box mt={4} maxW="820px">
        <DropArea label="Import a table" onFile={bring} several>
          {sending.left > 0
            ? `Sending ${counted(sending.left, 'file')} …`
            : `or drop one or several tables here, each of up to 200 MB, or paste cells that you copied in a spreadsheet: ${FORMATS.map(({ name }) => name).join(', ')}.`}
        </DropArea>
        {sending.problems.map((problem) => (
          <ErrorMessage key={problem}>{problem}</ErrorMessage>
        ))}
      </Box>
      <Answer of={list} what="the data sets">
        {({ dataSets, imports }) => (
          <>
            {imports.map((item) => (
              <ImportLine key={item.id} item={item} />
            ))}
            {dataSets.length > 0 ? (
              <DataSets dataSets={dataSets} />
            ) : imports.length === 0 ? (
              <NoData />
            ) : null}
          </>
        )}
      </Answer>
    </>
  );
}

function NoData() {
  return (
    <Empty title="No table yet">
      A data set begins with a table: one row for each case, one column for each feature, one for what is to
      be predicted. Drop its CSV file above. Rows that you hold out later never leave the server.
    </Empty>
  );
}

function DataSets({ dataSets }: { dataSets: readonly Schemas['DataSetSummary'][] }) {
  const { timeZone } = useCourse();
  return (
    <Box mt={5}>
      <Ruled
        label="Data sets"
        headings={[
          { text: 'data set' },
          { text: 'rows', numeric: true },
          { text: 'columns', numeric: true },
          { text: 'target' },
          { text: 'saved splits', numeric: true },
          { text: 'brought' },
        ]}
      >
        {dataSets.map((dataSet) => (
          <tr key={dataSet.id}>
            <Cell strong>
              <Link to={dataSet.id}>{dataSet.name}</Link>
            </Cell>
            <Cell numeric>{count(dataSet.rows)}</Cell>
            <Cell numeric>{dataSet.columns}</Cell>
            <Cell>{dataSet.target ?? <Text color="quiet">not yet marked</Text>}</Cell>
            <Cell numeric>{dataSet.splits}</Cell>
            <Cell quiet>{momentText(dataSet.createdAt, timeZone)}</Cell>
          </tr>
        ))}
      </Ruled>
    </Box>
  );
}
