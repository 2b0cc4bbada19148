import { Box } from '@chakra-ui/react';
import { marksFor, metricNamed, type MarkScheme } from '@modest-sieve/core';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceDot,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { axisOf } from './axis.js';
import { figureText } from './format.js';
import { ACCENT, axisTitle, INK, named, QUIET, RULE, small, tick, tooltip } from './plot-style.js';

/** Marks over the axis of a metric: the line through the three points of a scheme. */
export function MarkLine({
  scheme,
  metricKey,
  reached = null,
}: {
  scheme: MarkScheme;
  metricKey: string;
  /** A score to be shown on the line. */
  reached?: number | null;
}) {
  const { name: metric, range } = metricNamed(metricKey);
  const shown = reached === null ? [] : [reached];
  const { domain, ticks } = axisOf([scheme.nothing, scheme.most, scheme.all, ...shown], range);
  const [low, high] = domain;
  const points = [low, scheme.nothing, scheme.most, scheme.all, high]
    .sort((a, b) => a - b)
    .map((score) => ({ score, marks: marksFor(scheme, score) }));
  const isAnchor = (index: number) => index > 0 && index < points.length - 1;
  const anchors = [
    { score: scheme.nothing, text: 'nothing' },
    { score: scheme.most, text: 'most' },
    { score: scheme.all, text: 'all' },
  ];
  return (
    <Box
      role="img"
      aria-label={`Marks by ${metric}: none up to ${scheme.nothing}, ${scheme.mostMarks} at ${scheme.most}, ${scheme.marks} from ${scheme.all}${
        reached === null ? '' : `; ${marksFor(scheme, reached)} at the score ${figureText(reached)}`
      }`}
    >
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={points} margin={{ top: 34, right: 28, bottom: 22, left: 0 }}>
          <CartesianGrid vertical={false} stroke={RULE} />
          <XAxis
            dataKey="score"
            type="number"
            domain={domain}
            ticks={ticks}
            tick={tick}
            stroke={QUIET}
            label={axisTitle(metric)}
          />
          <YAxis
            tick={tick}
            stroke="none"
            width={34}
            domain={[0, scheme.marks]}
            ticks={[0, scheme.mostMarks, scheme.marks]}
            interval={0}
            label={{ value: 'marks', position: 'top', offset: 20, style: small }}
          />
          <Tooltip
            {...tooltip}
            formatter={(value) => [`${String(value)} marks`, '']}
            labelFormatter={(label) => `${metric} ${figureText(Number(label))}`}
            separator=""
          />
          {anchors.map(({ score, text }) => (
            <ReferenceLine
              key={text}
              x={score}
              stroke={ACCENT}
              strokeDasharray="2 3"
              label={{ value: text, position: 'top', offset: 9, style: named }}
            />
          ))}
          <Line
            dataKey="marks"
            stroke={ACCENT}
            strokeWidth={2}
            dot={({ cx, cy, index }: { cx?: number; cy?: number; index?: number }) => (
              <circle
                key={index}
                cx={cx}
                cy={cy}
                r={isAnchor(index ?? 0) ? 4 : 0}
                fill="var(--chakra-colors-paper)"
                stroke={ACCENT}
                strokeWidth={2}
              />
            )}
            isAnimationActive={false}
          />
          {reached === null ? null : (
            <ReferenceDot x={reached} y={marksFor(scheme, reached)} r={6} fill={INK} stroke="none" />
          )}
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}
