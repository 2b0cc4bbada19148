import { Box, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import type { PartName } from '@modest-sieve/core/splitting';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { PARTS } from './parts.js';

const TILE = 6;
const GAP = 1;
const ACROSS = 4;
const MOST_TILES_HIGH = 34;

interface Stack {
  readonly name: string;
  readonly cells: SplitConsequences['map'];
  readonly rows: number;
}

/**
 * Where each row goes: one stack for each group (or class), tiles coloured and patterned by part. With two labels
 * a filled tile has the positive one and an open tile the other.
 */
export function PartMap({
  map,
  positive,
  what,
}: {
  map: SplitConsequences['map'];
  positive: string | null;
  what: string;
}) {
  const names = [...new Set(map.map((cell) => cell.stack))];
  const stacks: Stack[] = names.map((name) => {
    const cells = map.filter((cell) => cell.stack === name);
    return { name, cells, rows: cells.reduce((n, cell) => n + cell.rows, 0) };
  });
  const largest = Math.max(1, ...stacks.map((stack) => stack.rows));
  // Few stacks may be broad; then a tile still is one row until the stack would grow too high.
  const across = stacks.length > 12 ? ACROSS : Math.min(24, Math.floor(96 / stacks.length));
  const rowsPerTile = Math.max(1, Math.ceil(largest / (across * MOST_TILES_HIGH)));
  const high = Math.ceil(Math.ceil(largest / rowsPerTile) / across) + 1;
  const width = across * (TILE + GAP) + 6;
  const height = high * (TILE + GAP) + 34;
  const total = stacks.length * width;
  return (
    <Box as="figure" role="img" aria-label={`Where each row goes: ${stacks.length} values of ${what}`}>
      <svg
        viewBox={`0 0 ${total} ${height}`}
        width="100%"
        style={{ maxWidth: total * 1.25, display: 'block' }}
      >
        {stacks.map((stack, i) => (
          <g key={stack.name} transform={`translate(${i * width} 0)`}>
            <title>{`${stack.name}: ${counted(stack.rows, 'row')}`}</title>
            <Tiles
              cells={stack.cells}
              positive={positive}
              rowsPerTile={rowsPerTile}
              across={across}
              bottom={height - 34}
            />
            <text
              x={width / 2 - 3}
              y={height - 20}
              textAnchor="middle"
              style={{ fontSize: 10.5 }}
              fill="var(--chakra-colors-quiet)"
            >
              {stack.name.length > width / 5.4
                ? `${stack.name.slice(0, Math.max(3, Math.floor(width / 5.8)))}…`
                : stack.name}
            </text>
            <text
              x={width / 2 - 3}
              y={height - 8}
              textAnchor="middle"
              style={{ fontSize: 11, fontWeight: 700 }}
            >
              {[...new Set(stack.cells.map((cell) => cell.part))].map((part) => (
                <tspan key={part} style={{ fill: PARTS[part].inkVariable }}>
                  {PARTS[part].letter}
                </tspan>
              ))}
            </text>
          </g>
        ))}
      </svg>
      {rowsPerTile > 1 ? (
        <Text fontSize="12.5px" color="quiet">
          One tile for {count(rowsPerTile)} rows; what has fewer has one tile too.
        </Text>
      ) : null}
    </Box>
  );
}

function Tiles({
  cells,
  positive,
  rowsPerTile,
  across,
  bottom,
}: {
  cells: SplitConsequences['map'];
  positive: string | null;
  rowsPerTile: number;
  across: number;
  bottom: number;
}) {
  const tiles: { part: PartName; filled: boolean }[] = [];
  for (const cell of cells) {
    const filled = positive === null || cell.label === positive;
    for (let n = Math.max(1, Math.round(cell.rows / rowsPerTile)); n > 0; n--)
      tiles.push({ part: cell.part, filled });
  }
  return (
    <>
      {tiles.map(({ part, filled }, i) => (
        <rect
          key={i}
          x={(i % across) * (TILE + GAP) + (filled ? 0 : 0.5)}
          y={bottom - (Math.floor(i / across) + 1) * (TILE + GAP) + (filled ? 0 : 0.5)}
          width={filled ? TILE : TILE - 1}
          height={filled ? TILE : TILE - 1}
          fill={filled ? PARTS[part].fill : 'none'}
          stroke={filled ? 'none' : `var(--chakra-colors-${PARTS[part].colour})`}
        />
      ))}
    </>
  );
}
