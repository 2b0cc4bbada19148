import { Box, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import type { Boxes } from '@modest-sieve/core/data';
import { valueText } from '../table/format.js';
import { QUIET, small } from './plot-style.js';
import { Cell, Ruled } from '../table/table.js';

const WIDTH = 860;
const LINE = 26;
const LEFT = 150;
const RIGHT = 14;
const BAR = 12;

/** Quartiles of a number by category, one line for each, with the figures in a table. */
export function BoxPlot({ boxes, isDate }: { boxes: Boxes; isDate: boolean }) {
  const low = Math.min(...boxes.boxes.map((box) => box.low));
  const high = Math.max(...boxes.boxes.map((box) => box.high));
  const x = (value: number) => LEFT + ((value - low) / (high - low || 1)) * (WIDTH - LEFT - RIGHT);
  const text = (value: number) => (isDate ? new Date(value).toISOString().slice(0, 10) : valueText(value));
  const height = boxes.boxes.length * LINE + 36;
  return (
    <>
      <Box as="figure" role="img" aria-label={`${boxes.number} by ${boxes.category}`} maxW="900px">
        <svg viewBox={`0 0 ${WIDTH} ${height}`} width="100%" style={{ display: 'block' }}>
          {boxes.boxes.map((box, i) => {
            const middle = i * LINE + LINE / 2;
            return (
              <g key={box.label}>
                <text x={LEFT - 10} y={middle + 4} textAnchor="end" style={small}>
                  {box.label.length > 22 ? `${box.label.slice(0, 21)}…` : box.label}
                </text>
                <line x1={x(box.low)} x2={x(box.high)} y1={middle} y2={middle} stroke={QUIET} />
                <rect
                  x={x(box.q1)}
                  y={middle - BAR / 2}
                  width={Math.max(1, x(box.q3) - x(box.q1))}
                  height={BAR}
                  fill="var(--chakra-colors-bar)"
                />
                <circle cx={x(box.median)} cy={middle} r="4.5" fill="var(--chakra-colors-accent)" />
              </g>
            );
          })}
          <line x1={LEFT} x2={WIDTH - RIGHT} y1={height - 32} y2={height - 32} stroke={QUIET} />
          <text x={LEFT} y={height - 16} style={small}>
            {text(low)}
          </text>
          <text x={WIDTH - RIGHT} y={height - 16} textAnchor="end" style={small}>
            {text(high)}
          </text>
          <text x={(LEFT + WIDTH) / 2} y={height - 4} textAnchor="middle" style={small}>
            {boxes.number}
          </text>
        </svg>
      </Box>
      <Text fontSize="13px" color="quiet" mb={3}>
        The dot is the median, the bar holds the middle half; the line runs to the last value within one and a
        half times the bar.
        {boxes.more > 0
          ? ` ${counted(boxes.more, 'value')} of ${boxes.category} with fewer rows left out.`
          : ''}
      </Text>
      <Ruled
        label={`${boxes.number} by ${boxes.category}`}
        headings={[
          { text: boxes.category },
          { text: 'rows', numeric: true },
          { text: 'first quarter below', numeric: true },
          { text: 'median', numeric: true },
          { text: 'last quarter above', numeric: true },
          { text: 'beyond the line', numeric: true },
        ]}
      >
        {boxes.boxes.map((box) => (
          <tr key={box.label}>
            <Cell>{box.label}</Cell>
            <Cell numeric>{count(box.rows)}</Cell>
            <Cell numeric>{text(box.q1)}</Cell>
            <Cell numeric>{text(box.median)}</Cell>
            <Cell numeric>{text(box.q3)}</Cell>
            <Cell numeric>{count(box.beyond)}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
