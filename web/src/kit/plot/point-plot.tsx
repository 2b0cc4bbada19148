import { Box, Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { Points } from '@modest-sieve/core/data';
import {
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
  ZAxis,
} from 'recharts';
import { valueText } from '../table/format.js';
import { axisTitle, INK, QUIET, RULE, small, tick, tooltip } from './plot-style.js';

interface Axis {
  readonly name: string;
  readonly isDate: boolean;
}

const shownBy = ({ isDate }: Axis) =>
  isDate
    ? (value: number) => new Date(value).toISOString().slice(0, 10)
    : (value: number) => valueText(value);

/** Marks of classes: form and colour together, so that neither is needed alone. */
const MARKS = [
  { shape: 'circle', colour: 'accent', ink: 'accent', word: 'disc' },
  { shape: 'cross', colour: 'heldout', ink: 'heldoutInk', word: 'cross' },
  { shape: 'triangle', colour: 'training', ink: 'trainingInk', word: 'triangle' },
  { shape: 'square', colour: 'validation', ink: 'validationInk', word: 'square' },
  { shape: 'star', colour: 'fails', ink: 'fails', word: 'star' },
] as const;

/** Two numbers of each row as a point, by class where there are classes. */
export function PointPlot({
  points,
  line,
  x,
  y,
}: {
  points: Points;
  line: Points['line'];
  x: Axis;
  y: Axis;
}) {
  const all = points.x.map((value, i) => ({
    x: value,
    y: points.y[i] ?? 0,
    code: points.classes?.[i] ?? -1,
  }));
  const groups =
    points.labels.length > 0
      ? points.labels.map((label, code) => ({ label, rows: all.filter((point) => point.code === code) }))
      : [{ label: '', rows: all }];
  const [low, high] = [Math.min(...points.x), Math.max(...points.x)];
  const at = (value: number) => (line ? line.intercept + line.slope * value : 0);
  return (
    <>
      {points.labels.length > 0 ? (
        <Flex gap={5} mt={2} fontSize="13.5px" wrap="wrap">
          {points.labels.map((label, code) => (
            <Text as="span" key={label}>
              <Text as="span" color={MARKS[code]?.ink} fontWeight={700}>
                {MARKS[code]?.word}
              </Text>{' '}
              {label}
            </Text>
          ))}
        </Flex>
      ) : null}
      <Box role="img" aria-label={`${all.length} rows by ${x.name} and ${y.name}`} maxW="900px">
        <ResponsiveContainer width="100%" height={370}>
          <ScatterChart margin={{ top: 12, right: 16, bottom: 28, left: 16 }}>
            <CartesianGrid stroke={RULE} />
            <XAxis
              dataKey="x"
              name={x.name}
              type="number"
              domain={['auto', 'auto']}
              tick={tick}
              tickFormatter={shownBy(x)}
              stroke={QUIET}
              label={axisTitle(x.name)}
            />
            <YAxis
              dataKey="y"
              name={y.name}
              type="number"
              domain={['auto', 'auto']}
              tick={tick}
              tickFormatter={shownBy(y)}
              stroke={QUIET}
              label={{ value: y.name, angle: -90, position: 'insideLeft', style: small }}
            />
            <ZAxis range={[26, 26]} />
            <Tooltip
              {...tooltip}
              formatter={(value, name) => shownBy(name === x.name ? x : y)(Number(value))}
            />
            {line ? (
              <ReferenceLine
                segment={[
                  { x: low, y: at(low) },
                  { x: high, y: at(high) },
                ]}
                stroke={INK}
                strokeWidth={1.5}
                ifOverflow="hidden"
              />
            ) : null}
            {groups.map(({ label, rows }, code) => (
              <Scatter
                key={label}
                name={label}
                data={rows}
                shape={MARKS[code]?.shape ?? 'circle'}
                fill={`var(--chakra-colors-${points.labels.length > 0 ? (MARKS[code]?.colour ?? 'accent') : 'accent'})`}
                fillOpacity={0.6}
                isAnimationActive={false}
              />
            ))}
          </ScatterChart>
        </ResponsiveContainer>
      </Box>
    </>
  );
}

const WIDTH = 860;
const HEIGHT = 430;
const LEFT = 70;
const FOOT = 40;

/** All rows as a grid of dots, the area of each the number of rows there. */
export function DensityPlot({
  density,
  x,
  y,
}: {
  density: NonNullable<Points['density']>;
  x: Axis;
  y: Axis;
}) {
  const { counts } = density;
  const across = counts[0]?.length ?? 1;
  const [w, h] = [(WIDTH - LEFT) / across, (HEIGHT - FOOT) / counts.length];
  const most = Math.max(1, ...counts.flat());
  const largest = Math.min(w, h) / 2;
  const text = (axis: Axis, value: number) => shownBy(axis)(value);
  return (
    <Box as="figure" role="img" aria-label={`Density of rows by ${x.name} and ${y.name}`} maxW="900px" mt={2}>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" style={{ display: 'block' }}>
        {counts.flatMap((line, row) =>
          line.map((n, column) =>
            n === 0 ? null : (
              <circle
                key={`${row} ${column}`}
                cx={LEFT + w * (column + 0.5)}
                cy={HEIGHT - FOOT - h * (row + 0.5)}
                r={Math.max(0.7, largest * Math.sqrt(n / most))}
                fill="var(--chakra-colors-accent)"
              >
                <title>{`${count(n)} rows`}</title>
              </circle>
            ),
          ),
        )}
        <line x1={LEFT} x2={WIDTH} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} stroke={QUIET} />
        <line x1={LEFT} x2={LEFT} y1={0} y2={HEIGHT - FOOT} stroke={QUIET} />
        <text x={LEFT} y={HEIGHT - 22} style={small}>
          {text(x, density.x.low)}
        </text>
        <text x={WIDTH} y={HEIGHT - 22} textAnchor="end" style={small}>
          {text(x, density.x.high)}
        </text>
        <text x={(LEFT + WIDTH) / 2} y={HEIGHT - 6} textAnchor="middle" style={small}>
          {x.name}
        </text>
        <text x={LEFT - 6} y={HEIGHT - FOOT} textAnchor="end" style={small}>
          {text(y, density.y.low)}
        </text>
        <text x={LEFT - 6} y={12} textAnchor="end" style={small}>
          {text(y, density.y.high)}
        </text>
        <text
          x={14}
          y={(HEIGHT - FOOT) / 2}
          textAnchor="middle"
          style={small}
          transform={`rotate(-90 14 ${(HEIGHT - FOOT) / 2})`}
        >
          {y.name}
        </text>
      </svg>
      <Text fontSize="13px" color="quiet">
        The largest dot stands for {count(most)} rows.
      </Text>
    </Box>
  );
}
