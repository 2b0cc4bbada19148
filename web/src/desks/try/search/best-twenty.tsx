import { Box, Text } from '@chakra-ui/react';
import { small } from '../../../kit/plot/plot-style.js';
import { rulerOf } from './ruler.js';
import type { Searched } from './searched.js';

const LEFT = 170;
const RIGHT = 40;
const WIDTH = 860;
const ROW = 58;
const TOP = 22;

/** The best settings of a search as threads through one ruler for each setting, down to the figure. */
export function BestTwenty({
  best,
  all,
  keys,
  labels,
  name,
}: {
  /** The best first. */
  best: readonly Searched[];
  /** Of which the rulers are. */
  all: readonly Searched[];
  keys: readonly string[];
  labels: Readonly<Record<string, string>>;
  /** Of the metric. */
  name: string;
}) {
  const lines = [
    ...keys.map((key) => ({
      text: labels[key] ?? key,
      of: (one: Searched) => one.values[key] ?? 0,
      among: all,
    })),
    { text: name, of: ({ mean }: Searched) => mean, among: best },
  ].map(({ text, of, among }, row) => {
    const ruler = rulerOf(among.map(of));
    return { text, row, ruler, x: (one: Searched) => LEFT + ruler.at(of(one)) * (WIDTH - LEFT - RIGHT) };
  });
  const y = (row: number) => TOP + row * ROW;
  const path = (one: Searched) => lines.map(({ x, row }) => `${x(one)},${y(row)}`).join(' ');
  return (
    <Box as="figure" mt={4} overflowX="auto">
      <svg
        viewBox={`0 0 ${WIDTH} ${TOP + (lines.length - 1) * ROW + 30}`}
        style={{ width: '100%', maxWidth: WIDTH }}
        role="img"
        aria-label={`The best ${best.length} settings, a thread each through ${lines.map(({ text }) => text).join(', ')}`}
      >
        {lines.map(({ text, row, ruler }) => (
          <g key={text}>
            <line
              x1={LEFT}
              x2={WIDTH - RIGHT}
              y1={y(row)}
              y2={y(row)}
              stroke="var(--chakra-colors-rule)"
              strokeWidth="2"
            />
            <text x={0} y={y(row) + 4} style={small}>
              {text}
            </text>
            {ruler.marks.map((mark) => (
              <text
                key={mark.text}
                x={LEFT + mark.at * (WIDTH - LEFT - RIGHT)}
                y={y(row) + 18}
                textAnchor="middle"
                style={small}
              >
                {mark.text}
              </text>
            ))}
          </g>
        ))}
        {[...best].reverse().map((one) => (
          <g key={one.place}>
            <polyline
              points={path(one)}
              fill="none"
              stroke={`var(--chakra-colors-${one === best[0] ? 'accent' : 'quiet'})`}
              strokeWidth={one === best[0] ? 3 : 1}
              strokeOpacity={one === best[0] ? 1 : 0.55}
            />
            {lines.map(({ x, row, text }) => (
              <circle
                key={text}
                cx={x(one)}
                cy={y(row)}
                r={one === best[0] ? 5 : 3}
                fill={`var(--chakra-colors-${one === best[0] ? 'accent' : 'quiet'})`}
              />
            ))}
          </g>
        ))}
      </svg>
      <Text fontSize="13.5px" color="quiet">
        The best {best.length}, a thread each; the thick one is the best. Where the threads of a ruler lie
        close together, the best settings agree; where they are spread over it, other values do as well.
        Rulers run over everything that was drawn, the last one over the figures of these.
      </Text>
    </Box>
  );
}
