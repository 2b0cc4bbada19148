import { chakra, Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { Select } from '../../../kit/form/select.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { groupsShown, type Group } from './groups-shown.js';

const MOST_SHOWN = 40;

/** Figures by subgroup: in an order of one's choice, and found by their name. */
export function GroupsTable({
  evidence: { groups, groupsLeftOut },
  by,
  metric,
  keys,
}: {
  evidence: Schemas['TrialEvidence'];
  by: string;
  metric: string;
  /** The metrics that have a column. */
  keys: readonly string[];
}) {
  const [order, setOrder] = useState('rows');
  const [wanted, setWanted] = useState('');
  const found = groupsShown(groups, wanted, order);
  const shown: readonly Group[] = found.slice(0, MOST_SHOWN);
  const left = found.length - shown.length + groupsLeftOut;
  return (
    <>
      <Subtitle>{`By ${by}`}</Subtitle>
      <Flex gap={5} wrap="wrap" align="end" mb={2}>
        <Select
          label="In the order of"
          value={order}
          choices={[
            { value: 'rows', text: 'most rows' },
            { value: 'value', text: by },
            ...keys.map((key) => ({ value: key, text: `${metricNamed(key).name}, the worst first` })),
          ]}
          onChange={setOrder}
        />
        {groups.length > MOST_SHOWN ? (
          <chakra.label fontSize="13.5px" color="quiet">
            Find
            <chakra.input
              type="search"
              ml={2}
              px={2}
              py={1}
              bg="sheet"
              border="1px solid"
              borderColor="rule"
              value={wanted}
              onChange={(event) => setWanted(event.target.value)}
            />
          </chakra.label>
        ) : null}
      </Flex>
      <Ruled
        label={`By ${by}`}
        headings={[
          { text: by },
          { text: 'rows', numeric: true },
          ...keys.map((key) => ({ text: metricNamed(key).name, numeric: true })),
        ]}
      >
        {shown.map(({ value, rows, figures: own }) => (
          <tr key={value}>
            <Cell>{value}</Cell>
            <Cell numeric>{count(rows)}</Cell>
            {keys.map((key) => (
              <Cell key={key} numeric strong={key === metric}>
                {figureText(own[key]?.value)}
              </Cell>
            ))}
          </tr>
        ))}
      </Ruled>
      {left > 0 ? (
        <Text mt={1} fontSize="13px" color="quiet">
          {counted(left, 'subgroup')} {left === 1 ? 'is' : 'are'} not shown.
        </Text>
      ) : null}
    </>
  );
}
