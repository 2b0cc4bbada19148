import { Box, Flex, Text } from '@chakra-ui/react';
import { count, FORMATS } from '@modest-sieve/core';
import { Link } from 'react-router';
import { refresh, send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/action.js';
import { DropArea } from '../kit/drop-area.js';
import { momentText } from '../kit/format.js';
import { Answer, Complaint, Empty } from '../kit/states.js';
import { Cell, Ruled } from '../kit/table.js';
import { Title } from '../kit/title.js';
import { useDoing } from '../kit/use-doing.js';

/** The course's data sets, and the place to drop a new one. */
export function DataPage() {
  const address = useCourseApi();
  const list = useAnswer<'DataSetList'>(address('data-sets'));
  const doing = useDoing();
  const bring = (file: File) =>
    doing.run(async () => {
      const form = new FormData();
      form.set('file', file);
      await send('POST', address('data-sets'), form);
    });
  return (
    <>
      <Title>Data</Title>
      <Box mt={4} maxW="820px">
        <DropArea label="Bring a table" onFile={bring} disabled={doing.busy}>
          {doing.busy
            ? 'Sending …'
            : `or drop a table here, of up to 200 MB: ${FORMATS.map(({ name }) => name).join(', ')}.`}
        </DropArea>
        <Complaint>{doing.problem?.message}</Complaint>
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

function ImportLine({ item }: { item: Schemas['ImportInfo'] }) {
  const address = useCourseApi();
  return (
    <Flex mt={3} gap={4} align="baseline" data-import={item.state}>
      {item.state === 'failed' ? (
        <>
          <Text role="alert" color="fails">
            <span aria-hidden>✕ </span>
            {item.problem?.message}
          </Text>
          <TextAction
            onClick={() => void send('DELETE', address('data-sets', 'imports', item.id)).then(refresh)}
            label={`Put aside the message about ${item.fileName}`}
          >
            Put aside
          </TextAction>
        </>
      ) : (
        <Text role="status">Reading {item.fileName} …</Text>
      )}
    </Flex>
  );
}

function DataSets({ dataSets }: { dataSets: Schemas['DataSetSummary'][] }) {
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
          { text: 'splits kept', numeric: true },
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
