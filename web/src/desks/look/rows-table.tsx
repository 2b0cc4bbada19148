import { Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core';
import { useState } from 'react';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/action.js';
import { Answer } from '../../kit/states.js';
import { Cell, Ruled } from '../../kit/table.js';
import { useDataSet } from '../data-set-page.js';

const PAGE = 20;

/** A page of the table's rows, as the file has them. */
export function RowsTable() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const [offset, setOffset] = useState(0);
  const page = useAnswer<'RowPage'>(
    `${address('data-sets', dataSet.id, 'rows')}?offset=${offset}&limit=${PAGE}`,
  );
  const numeric = new Set(dataSet.profile.filter((c) => c.kind === 'number').map((c) => c.name));
  return (
    <Answer of={page} what="the rows">
      {({ columns, rows, total }) => (
        <>
          <Ruled
            label="Rows"
            headings={[
              { text: 'row', numeric: true },
              ...columns.map((text) => ({ text, numeric: numeric.has(text) })),
            ]}
          >
            {rows.map((row, i) => (
              <tr key={offset + i}>
                <Cell numeric quiet>
                  {count(offset + i + 1)}
                </Cell>
                {row.map((cell, c) => (
                  <Cell key={columns[c]} numeric={numeric.has(columns[c] ?? '')} quiet={cell === null}>
                    {cell ?? 'missing'}
                  </Cell>
                ))}
              </tr>
            ))}
          </Ruled>
          <Flex mt={3} gap={3} align="center">
            <Action plain disabled={offset === 0} onClick={() => setOffset(Math.max(0, offset - PAGE))}>
              Earlier rows
            </Action>
            <Action plain disabled={offset + PAGE >= total} onClick={() => setOffset(offset + PAGE)}>
              Later rows
            </Action>
            <Text fontSize="13.5px" color="quiet">
              {count(offset + 1)} to {count(Math.min(total, offset + PAGE))} of {count(total)}
            </Text>
          </Flex>
        </>
      )}
    </Answer>
  );
}
