import { Text } from '@chakra-ui/react';
import { SieveError } from '@modest-sieve/core/foundation';
import { toldSlips, type Question, type ToldSlip } from '@modest-sieve/core/assessment';
import { useMemo } from 'react';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';

/** Decimals that are typed where the tolerance does not say. */
const USUAL = 3;

/** Which known mistakes the answers to a drawn question can tell, at the digits that are asked for. */
export function ToldMistakes({ question }: { question: Extract<Question, { kind: 'values' }> }) {
  const { figures, tolerance, id } = question;
  const { decimals: asked } = tolerance.values;
  const decimals = typeof asked === 'number' ? asked : USUAL;
  const told = useMemo(() => toldIn(figures, id, decimals), [figures, id, decimals]);
  if (told.length === 0) return null;
  return (
    <>
      <Subtitle>{`Known mistakes, at ${decimals} decimals`}</Subtitle>
      <Ruled
        label="Known mistakes that are told"
        headings={[{ text: 'mistake' }, { text: 'told', numeric: true }, { text: 'same figure as' }]}
      >
        {told.map(({ title, share, beside }) => (
          <tr key={title}>
            <Cell>{title}</Cell>
            <Cell numeric>{`${Math.round(100 * share)} %`}</Cell>
            <Cell>{beside.join(', ')}</Cell>
          </tr>
        ))}
      </Ruled>
      <Text mt={2} fontSize="13px" color="quiet">
        Of a dozen variants. More decimals tell more.
      </Text>
    </>
  );
}

/** None where nothing can be drawn, which the variants above say. */
function toldIn(
  figures: Extract<Question, { kind: 'values' }>['figures'],
  id: string,
  decimals: number,
): readonly ToldSlip[] {
  try {
    return toldSlips(figures, id, decimals);
  } catch (error) {
    if (error instanceof SieveError) return [];
    throw error;
  }
}
