import { Box, Text } from '@chakra-ui/react';
import { shortNumber } from '@modest-sieve/core/foundation';
import {
  CartesianGrid,
  ErrorBar,
  Line,
  LineChart,
  ReferenceArea,
  ReferenceDot,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { axisOf } from './axis.js';
import { figureText } from '../table/format.js';
import { ACCENT, axisTitle, named, QUIET, RULE, small, tick, tooltip } from './plot-style.js';
import { type LinePlotProps, colourOf } from './line-plot-series.js';
import { FiguresBelow } from './figures-below.js';

/** Lines over a common axis, each named at its end, with the same figures as a table below. */
export function LinePlot({
  label,
  series,
  behind,
  x,
  y,
  areas = [],
  marks = [],
  lines = [],
  diagonal = false,
  height = 280,
}: LinePlotProps) {
  const all = series.flatMap(({ points }) => points);
  if (all.length === 0) return null;
  const axes = {
    x: x.domain
      ? { domain: [...x.domain] as [number, number], ticks: [...(x.ticks ?? [])] }
      : axisOf(
          all.map((point) => point.x),
          [null, null],
        ),
    y: y.domain
      ? { domain: [...y.domain] as [number, number], ticks: [...(y.ticks ?? [])] }
      : axisOf(
          all.flatMap((point) => [point.y - (point.error ?? 0), point.y + (point.error ?? 0)]),
          y.bounds ?? [null, null],
        ),
  };
  const xText = x.text ?? ((value: number) => shortNumber(value));
  const yText = y.text ?? ((value: number) => shortNumber(value));
  return (
    <Box>
      <Legend
        series={
          behind && behind.lines.length > 0
            ? [...series, { name: behind.name, points: [], colour: 'bar' }]
            : series
        }
      />
      <Box role="img" aria-label={label} maxW="900px">
        <ResponsiveContainer width="100%" height={height}>
          <LineChart margin={{ top: 14, right: 24, bottom: 28, left: 16 }}>
            {areas.map(({ from, to, text }) => (
              <ReferenceArea
                key={text}
                x1={from}
                x2={to}
                fill="var(--chakra-colors-bar)"
                fillOpacity={0.35}
                label={{ value: text, position: 'insideBottomLeft', style: small }}
              />
            ))}
            <CartesianGrid vertical={false} stroke={RULE} />
            <XAxis
              dataKey="x"
              type="number"
              domain={axes.x.domain}
              {...(axes.x.ticks.length > 0 ? { ticks: axes.x.ticks } : {})}
              tick={tick}
              tickFormatter={xText}
              stroke={QUIET}
              allowDataOverflow
              label={axisTitle(x.title)}
            />
            <YAxis
              type="number"
              domain={axes.y.domain}
              {...(axes.y.ticks.length > 0 ? { ticks: axes.y.ticks } : {})}
              tick={tick}
              tickFormatter={yText}
              stroke={QUIET}
              allowDataOverflow
              label={{
                value: y.title,
                angle: -90,
                position: 'insideLeft',
                style: { ...small, textAnchor: 'middle' },
              }}
            />
            <Tooltip
              {...tooltip}
              labelFormatter={(value) => `${x.title} ${xText(Number(value))}`}
              formatter={(value, name) => [figureText(Number(value)), String(name)]}
            />
            {diagonal ? (
              <ReferenceLine
                segment={[
                  { x: axes.x.domain[0], y: axes.y.domain[0] },
                  { x: axes.x.domain[1], y: axes.y.domain[1] },
                ]}
                stroke={QUIET}
                strokeDasharray="2 4"
              />
            ) : null}
            {lines.map(({ y: at, text }) => (
              <ReferenceLine
                key={text}
                y={at}
                stroke={QUIET}
                strokeDasharray="4 3"
                label={{ value: text, position: 'insideTopRight', style: small }}
              />
            ))}
            {behind?.lines.map((points, i) => (
              <Line
                key={i}
                data={[...points]}
                dataKey="y"
                stroke={colourOf('bar')}
                strokeWidth={1}
                dot={false}
                activeDot={false}
                tooltipType="none"
                isAnimationActive={false}
              />
            ))}
            {series.map(({ name, points, colour, dash, dots = false, step = false }) => (
              <Line
                key={name}
                data={[...points]}
                dataKey="y"
                name={name}
                type={step ? 'stepAfter' : 'linear'}
                stroke={colourOf(colour)}
                strokeWidth={2}
                {...(dash === undefined ? {} : { strokeDasharray: dash })}
                dot={dots ? { r: 2.5, fill: colourOf(colour), strokeWidth: 0 } : false}
                isAnimationActive={false}
              >
                {points.some(({ error }) => error !== undefined) ? (
                  <ErrorBar
                    dataKey="error"
                    direction="y"
                    width={3}
                    stroke={colourOf(colour)}
                    strokeWidth={1}
                  />
                ) : null}
              </Line>
            ))}
            {marks.map(({ x: atX, y: atY, text }, i) => (
              <ReferenceDot
                key={text}
                x={atX}
                y={atY}
                r={6}
                fill="none"
                stroke={ACCENT}
                strokeWidth={2}
                label={{
                  value: text,
                  position: i % 2 === 0 ? 'top' : 'bottom',
                  offset: 9,
                  style: { ...named, fontWeight: 700 },
                }}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </Box>
      <FiguresBelow label={label} series={series} x={x} xText={xText} />
    </Box>
  );
}

/** Which line is which: a piece of each before its name. */
function Legend({ series }: Pick<LinePlotProps, 'series'>) {
  if (series.length < 2) return null;
  return (
    <Text fontSize="13px" mt={1}>
      {series.map(({ name, colour, dash }) => (
        <Text as="span" key={name} mr={5} whiteSpace="nowrap">
          <svg width="26" height="8" aria-hidden style={{ display: 'inline', marginRight: 6 }}>
            <line
              x1="0"
              x2="26"
              y1="4"
              y2="4"
              stroke={colourOf(colour)}
              strokeWidth="2"
              strokeDasharray={dash}
            />
          </svg>
          {name}
        </Text>
      ))}
    </Text>
  );
}
