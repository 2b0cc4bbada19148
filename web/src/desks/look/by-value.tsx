import { Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { ShareInterval } from '../../kit/plot/distribution.js';
import { percent, valueText } from '../../kit/table/format.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';

/** The target's rate, or its mean, at the values of a column, with intervals. */
export function ByValue({ column }: { column: string }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { roles } = dataSet;
  const asked = roles && roles.target !== column;
  const { data, error } = useAnswer(
    asked ? address('/data-sets/{dataSet}/by-value', { dataSet: dataSet.address }, { column }) : null,
  );
  if (!roles || !asked) return null;
  if (error) return <ErrorMessage>{error.message}</ErrorMessage>;
  const lines = (data?.values ?? []).filter(({ rows }) => rows > 0);
  if (lines.length === 0) return null;
  const label = data?.label ?? null;
  const isShare = label !== null;
  const shown = isShare ? percent : valueText;
  const from = Math.min(...lines.map(({ low, figure }) => low ?? figure ?? 0));
  const to = Math.max(...lines.map(({ high, figure }) => high ?? figure ?? 1));
  const what = isShare ? `${roles.target} is ${label}` : `mean of ${roles.target}`;
  return (
    <>
      <Subtitle>{what}, by its values</Subtitle>
      <Ruled
        label={`${what}, by ${column}`}
        headings={[
          { text: column },
          { text: 'rows', numeric: true },
          { text: `95 % interval, drawn from ${shown(from)} to ${shown(to)}` },
        ]}
      >
        {lines.map(({ value, rows, figure, low, high }) => (
          <tr key={value}>
            <Cell quiet={value === null}>{value ?? 'no value'}</Cell>
            <Cell numeric quiet>
              {count(rows)}
            </Cell>
            <Cell nowrap>
              <Flex align="center" gap={2}>
                <ShareInterval
                  share={figure ?? 0}
                  low={low ?? figure ?? 0}
                  high={high ?? figure ?? 0}
                  from={from}
                  to={to}
                  colour="accent"
                />
                <Text>
                  {figure === null ? '–' : shown(figure)}
                  {low === null || high === null ? '' : ` (${shown(low)} to ${shown(high)})`}
                </Text>
              </Flex>
            </Cell>
          </tr>
        ))}
      </Ruled>
      {data && data.more > 0 ? (
        <Text mt={1} fontSize="13.5px" color="quiet">
          The values with the most rows; {count(data.more)} others are not shown.
        </Text>
      ) : null}
    </>
  );
}
