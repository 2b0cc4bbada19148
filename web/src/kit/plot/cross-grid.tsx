import { Box, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import type { CrossTable } from '@modest-sieve/core/data';
import { percent } from '../table/format.js';
import { Cell, Ruled } from '../table/table.js';

const SIDE = 30;

/** Rows by two categories: a square for each pair, its area the share within its line. */
export function CrossGrid({ cross, x, y }: { cross: CrossTable; x: string; y: string }) {
  return (
    <>
      <Ruled
        label={`${y} by ${x}`}
        headings={[
          { text: `${y} \\ ${x}` },
          ...cross.x.map((text) => ({ text })),
          { text: 'rows', numeric: true },
        ]}
      >
        {cross.y.map((label, row) => {
          const counts = cross.counts[row] ?? [];
          const all = counts.reduce((a, b) => a + b, 0);
          return (
            <tr key={label}>
              <Cell strong>{label}</Cell>
              {counts.map((n, column) => (
                <Cell key={cross.x[column]} nowrap>
                  <Box display="flex" alignItems="center" gap={2}>
                    <Box w={`${SIDE}px`} h={`${SIDE}px`} display="grid" placeItems="center" aria-hidden>
                      <Box
                        w={`${SIDE * Math.sqrt(all === 0 ? 0 : n / all)}px`}
                        h={`${SIDE * Math.sqrt(all === 0 ? 0 : n / all)}px`}
                        bg="accent"
                      />
                    </Box>
                    <Box>
                      <Text className="figures">{count(n)}</Text>
                      <Text fontSize="12px" color="quiet">
                        {all === 0 ? '–' : percent(n / all)}
                      </Text>
                    </Box>
                  </Box>
                </Cell>
              ))}
              <Cell numeric>{count(all)}</Cell>
            </tr>
          );
        })}
      </Ruled>
      <Text fontSize="13px" color="quiet" mt={2}>
        Shares are of the line.
        {cross.more > 0 ? ` ${counted(cross.more, 'row')} with rarer values left out.` : ''}
      </Text>
    </>
  );
}
