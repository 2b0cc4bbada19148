import { Box, Grid, Text } from '@chakra-ui/react';
import { count, type ColumnProfile } from '@modest-sieve/core';
import { Fragment } from 'react';
import { valueText } from '../../kit/format.js';
import { Subtitle } from '../../kit/title.js';

/** The figures of one column. */
export function ColumnSummary({ column, rows }: { column: ColumnProfile; rows: number }) {
  const { summary } = column;
  const value = (n: number) =>
    column.kind === 'time' ? new Date(n).toISOString().slice(0, 10) : valueText(n);
  const lines: [string, string][] = [['present', `${count(rows - column.missing)} of ${count(rows)}`]];
  if (summary) {
    if (column.kind === 'number')
      lines.push(['mean ± s.d.', `${valueText(summary.mean)} ± ${valueText(summary.sd)}`]);
    lines.push(['quartiles', [summary.q1, summary.median, summary.q3].map(value).join(' · ')]);
    lines.push(['range', `${value(summary.min)} to ${value(summary.max)}`]);
  }
  return (
    <Box>
      <Subtitle>{column.name}</Subtitle>
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
