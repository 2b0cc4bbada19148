import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { metricSentence } from '@modest-sieve/core/assessment';
import type { ReactNode } from 'react';
import type { Schemas } from '../../api/client.js';
import { Brief } from '../../kit/layout/markdown.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { metricOf } from '../common/scheme-of.js';

/** A question as a student reads it, with the place to answer it below. */
export function QuestionView({
  sheet,
  place,
  children,
}: {
  sheet: Schemas['QuestionSheet'];
  place: number;
  children: ReactNode;
}) {
  const metric = metricOf(sheet);
  return (
    <Box as="section" aria-label={`Question ${place}`} data-question={sheet.id}>
      <Subtitle>
        {place} · {sheet.title}{' '}
        <Text as="span" fontFamily="body" fontSize="13.5px" fontWeight={400} color="quiet">
          {counted(sheet.marks, 'mark')}
        </Text>
      </Subtitle>
      {sheet.text === '' ? null : <Brief text={sheet.text} />}
      {sheet.table ? (
        <Box mt={2} maxW="30rem">
          <Ruled
            label={`table of question ${place}`}
            headings={sheet.table.header.map((text) => ({ text, numeric: true }))}
          >
            {sheet.table.rows.map((row, i) => (
              <tr key={i}>
                {row.map((cell, column) => (
                  <Cell key={column} numeric>
                    {cell}
                  </Cell>
                ))}
              </tr>
            ))}
          </Ruled>
        </Box>
      ) : null}
      <Text mt={1} mb={2} fontSize="13.5px" color="quiet">
        {sheet.checked}
        {metric === null ? '' : ` ${metricSentence(metricNamed(metric))}`}
        {sheet.example === null ? '' : ` The pack shows one in ${sheet.example}.`}
      </Text>
      {children}
    </Box>
  );
}
