import { Box, chakra, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { ExampleCell, StepExamples } from '@modest-sieve/core/data';
import { Cell, Ruled } from '../../kit/table/table.js';

/** Rows before and after a step: what was is struck through where something else takes its place. */
export function Examples({ examples }: { examples: StepExamples }) {
  return (
    <Ruled
      label="Before and after"
      headings={[{ text: 'row', numeric: true }, ...examples.columns.map((text) => ({ text })), { text: '' }]}
    >
      {examples.rows.map(({ row, fate, cells }) => (
        <tr key={row}>
          <Cell numeric quiet>
            {count(row)}
          </Cell>
          {cells.map((cell, i) => (
            <Cell key={examples.columns[i]} nowrap>
              <BeforeAfter cell={cell} falls={fate === 'falls out'} />
            </Cell>
          ))}
          <Cell nowrap>
            {fate === 'stays' ? null : (
              <Text as="span" color={fate === 'falls out' ? 'fails' : 'unsure'}>
                <span aria-hidden>{fate === 'falls out' ? '↓ ' : '⧉ '}</span>
                {fate}
              </Text>
            )}
          </Cell>
        </tr>
      ))}
    </Ruled>
  );
}

function BeforeAfter({ cell, falls }: { cell: ExampleCell; falls: boolean }) {
  const { before, after, there } = cell;
  const old = <Value text={before} />;
  if (falls) return <Box color="quiet">{old}</Box>;
  if (there === 'before') return <chakra.del color="quiet">{old}</chakra.del>;
  if (there === 'after')
    return (
      <chakra.ins fontWeight={700} textDecoration="none">
        <Value text={after} />
      </chakra.ins>
    );
  if (before === after) return old;
  return (
    <>
      <chakra.del color="quiet">{old}</chakra.del>{' '}
      <chakra.ins fontWeight={700} textDecoration="none">
        <Value text={after} />
      </chakra.ins>
    </>
  );
}

const Value = ({ text }: { text: string | null }) =>
  text === null ? (
    <Text as="span" color="quiet" fontStyle="italic">
      missing
    </Text>
  ) : (
    <>{text}</>
  );
