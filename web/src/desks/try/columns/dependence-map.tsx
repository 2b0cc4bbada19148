import { Box, Text } from '@chakra-ui/react';
import type { Schemas } from '../../../api/client.js';
import { small } from '../../../kit/plot/plot-style.js';
import { figureText } from '../../../kit/table/format.js';

const CELL = 55;
const LEFT = 100;
const TOP = 40;
const SIDE = 34;

/** Mean predictions along two columns: the higher, the larger the square. */
export function DependenceMap({
  of,
  what,
  text,
}: {
  of: Schemas['ColumnDependence'];
  /** What is predicted. */
  what: string;
  text: (column: string) => (value: number | string) => string;
}) {
  const [down, across] = of.axes;
  if (!down || !across) return null;
  const [low, high] = [Math.min(...of.mean), Math.max(...of.mean)];
  const sideOf = (value: number) => 3 + (SIDE - 3) * (high > low ? (value - low) / (high - low) : 1);
  const width = LEFT + across.values.length * CELL;
  const height = TOP + down.values.length * CELL;
  return (
    <Box as="figure" overflowX="auto" mt={3} tabIndex={0} role="region" aria-label={`Map of the ${what}`}>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`${what} by ${down.column} and ${across.column}`}
      >
        <text x={0} y={30} style={small}>
          {down.column}
        </text>
        <text x={LEFT} y={12} style={small}>
          {across.column}
        </text>
        {across.values.map((value, c) => (
          <text key={value} x={LEFT + (c + 0.5) * CELL} y={30} textAnchor="middle" style={small}>
            {text(across.column)(value)}
          </text>
        ))}
        {down.values.map((value, r) => (
          <g key={value}>
            <text x={0} y={TOP + (r + 0.5) * CELL} style={small}>
              {text(down.column)(value)}
            </text>
            {across.values.map((other, c) => {
              const mean = of.mean[r * across.values.length + c] ?? 0;
              const side = sideOf(mean);
              const [x, y] = [LEFT + (c + 0.5) * CELL, TOP + (r + 0.5) * CELL - 8];
              return (
                <g key={other}>
                  <rect
                    x={x - side / 2}
                    y={y - side / 2}
                    width={side}
                    height={side}
                    fill="var(--chakra-colors-bar)"
                  />
                  <text x={x} y={y + SIDE / 2 + 13} textAnchor="middle" style={small}>
                    {figureText(mean)}
                  </text>
                </g>
              );
            })}
          </g>
        ))}
      </svg>
      <Text fontSize="13.5px" color="quiet">
        {what}, mean over the rows; the larger the square, the higher.
      </Text>
    </Box>
  );
}
