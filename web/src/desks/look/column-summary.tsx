import { Box, chakra, Grid, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { ColumnProfile } from '@modest-sieve/core/data';
import { Fragment, useState } from 'react';
import { send } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { valueText } from '../../kit/table/format.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useAction } from '../../kit/form/use-action.js';
import { useDataSet } from '../use-data-set.js';

/** What a column means, in words that students get with the pack. */
function Description({ name }: { name: string }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const saved = dataSet.descriptions[name] ?? '';
  const [text, setText] = useState(saved);
  const [seen, setSeen] = useState(saved);
  if (seen !== saved) {
    setSeen(saved);
    setText(saved);
  }
  const keep = () => {
    if (text.trim() === saved) return;
    doing.run(() =>
      send('patch', address('/data-sets/{dataSet}/descriptions', { dataSet: dataSet.address }), {
        descriptions: { [name]: text },
      }),
    );
  };
  return (
    <Box mb={2}>
      <chakra.input
        w="100%"
        bg="sheet"
        border="1px solid"
        borderColor="rule"
        borderRadius="4px"
        px={2}
        py="4px"
        fontSize="13.5px"
        aria-label={`What ${name} means`}
        placeholder="What it means, and its unit: students get these words"
        _placeholder={{ color: 'quiet' }}
        maxLength={1000}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

/** The figures of one column. */
export function ColumnSummary({ column, rows }: { column: ColumnProfile; rows: number }) {
  const { summary } = column;
  const value = (n: number) =>
    column.kind === 'time' ? new Date(n).toISOString().slice(0, 10) : valueText(n);
  const lines: [string, string][] = [
    ['present', `${count(rows - column.missing)} of ${count(rows)}`],
    ['distinct', count(column.distinct)],
  ];
  if (summary) {
    if (column.kind === 'number')
      lines.push(['mean ± s.d.', `${valueText(summary.mean)} ± ${valueText(summary.sd)}`]);
    lines.push(['quartiles', [summary.q1, summary.median, summary.q3].map(value).join(' · ')]);
    if (summary.skewness !== null)
      lines.push([
        'skewness, excess kurtosis',
        [summary.skewness, summary.kurtosis].map(valueText).join(' · '),
      ]);
    lines.push(['range', `${value(summary.min)} to ${value(summary.max)}`]);
  }
  return (
    <Box>
      <Subtitle>{column.name}</Subtitle>
      <Description key={column.name} name={column.name} />
      <Grid templateColumns="auto 1fr" columnGap={4} rowGap={1} fontSize="13.5px">
        {lines.map(([name, text]) => (
          <Fragment key={name}>
            <Text color="quiet">{name}</Text>
            <Text className="figures" textAlign="right">
              {text}
            </Text>
          </Fragment>
        ))}
        {column.kind === 'text' ? null : <TopValues column={column} />}
      </Grid>
      {column.note ? (
        <Text mt={2} fontSize="13.5px" color="unsure">
          <span aria-hidden>≈ </span>
          {column.note}
        </Text>
      ) : null}
    </Box>
  );
}

function TopValues({ column }: { column: ColumnProfile }) {
  return (
    <>
      {column.top.map(({ value, count: n }) => (
        <Fragment key={value}>
          <Text fontFamily="mono" overflowWrap="anywhere">
            {value}
          </Text>
          <Text className="figures" textAlign="right">
            {count(n)}
          </Text>
        </Fragment>
      ))}
    </>
  );
}
