import { Box } from '@chakra-ui/react';
import { marksFor, metricNamed, type MarkScheme } from '@modest-sieve/core';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceDot,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { figureText } from './format.js';

const INK = 'var(--chakra-colors-ink)';
const QUIET = 'var(--chakra-colors-quiet)';
const RULE = 'var(--chakra-colors-rule)';
const ACCENT = 'var(--chakra-colors-accent)';

/** The reset outweighs attributes of a text, but not its style. */
const small = { fontSize: 12, fill: QUIET };
const named = { fontSize: 12, fill: ACCENT };
const tick = { style: small };
const tooltip = {
  contentStyle: {
    background: 'var(--chakra-colors-sheet)',
    border: `1px solid ${RULE}`,
    color: INK,
    fontSize: 13,
  },
  itemStyle: { color: INK },
};
const axisTitle = (value: string) => ({
  value,
  position: 'insideBottom' as const,
  offset: -12,
  style: small,
});

/** An axis with round ticks that shows all points with some room, not beyond what the metric can be. */
function axisOf(
  points: readonly number[],
  bounds: readonly [number | null, number | null],
): { domain: [number, number]; ticks: number[] } {
  const least = Math.min(...points);
  const most = Math.max(...points);
  const span = most - least || Math.abs(most) || 1;
  const power = 10 ** Math.floor(Math.log10(span / 3));
  const step = power * ([1, 2, 5].find((multiple) => span / (multiple * power) <= 6) ?? 10);
  const low = Math.max(Math.floor((least - span * 0.08) / step) * step, bounds[0] ?? -Infinity);
  const high = Math.min(Math.ceil((most + span * 0.08) / step) * step, bounds[1] ?? Infinity);
  const ticks = Array.from({ length: Math.round((high - low) / step) + 1 }, (_, i) =>
    Number((low + i * step).toPrecision(6)),
  );
  return { domain: [low, high], ticks };
}

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
              label={{ value: text, position: 'top', style: named }}
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

/** Scores of a class over the points of the mark line; equal scores are stacked. */
export function ScoreStrip({
  scores,
  scheme,
  metricKey,
  chosen,
}: {
  scores: readonly { id: string; name: string; score: number }[];
  scheme: MarkScheme;
  metricKey: string;
  chosen: string | null;
}) {
  const { name: metric, range } = metricNamed(metricKey);
  const { domain, ticks } = axisOf(
    [scheme.nothing, scheme.most, scheme.all, ...scores.map((s) => s.score)],
    range,
  );
  const [low, high] = domain;
  const heights = new Map<number, number>();
  const points = [...scores]
    .sort((a, b) => a.score - b.score)
    .map((s) => {
      const bin = Math.round(((s.score - low) / (high - low)) * 60);
      const y = (heights.get(bin) ?? 0) + 1;
      heights.set(bin, y);
      return { x: s.score, y, name: s.name, id: s.id };
    });
  const top = Math.max(4, ...points.map((p) => p.y)) + 1;
  return (
    <Box role="img" aria-label={`Scores: ${points.map((p) => `${p.name} ${figureText(p.x)}`).join(', ')}`}>
      <ResponsiveContainer width="100%" height={Math.min(260, 110 + top * 14)}>
        <ScatterChart margin={{ top: 22, right: 24, bottom: 22, left: 8 }}>
          <XAxis
            dataKey="x"
            type="number"
            domain={domain}
            ticks={ticks}
            tick={tick}
            stroke={QUIET}
            label={axisTitle(metric)}
          />
          <YAxis dataKey="y" type="number" domain={[0, top]} hide />
          <Tooltip
            content={({ payload }) => {
              const point = payload[0]?.payload as (typeof points)[number] | undefined;
              return point ? (
                <Box
                  {...{ style: { ...tooltip.contentStyle, padding: 6 } }}
                >{`${point.name}: ${figureText(point.x)}`}</Box>
              ) : null;
            }}
          />
          {[
            { x: scheme.nothing, text: '0 marks' },
            { x: scheme.most, text: `${scheme.mostMarks} marks` },
            { x: scheme.all, text: `${scheme.marks} marks` },
          ].map(({ x, text }) => (
            <ReferenceLine
              key={text}
              x={x}
              stroke={ACCENT}
              strokeDasharray="2 3"
              label={{ value: text, position: 'top', style: named }}
            />
          ))}
          <Scatter
            data={points.filter((p) => p.id !== chosen)}
            fill="var(--chakra-colors-figure)"
            isAnimationActive={false}
          />
          <Scatter data={points.filter((p) => p.id === chosen)} fill={ACCENT} isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </Box>
  );
}

/** Residuals (truth − prediction) against predictions. */
export function ResidualPlot({
  predicted,
  residual,
  unit,
}: {
  predicted: readonly number[];
  residual: readonly number[];
  unit: string;
}) {
  const points = predicted.map((x, i) => ({ x, y: residual[i] ?? 0 }));
  return (
    <Box role="img" aria-label={`Residuals of ${points.length} rows against the prediction`}>
      <ResponsiveContainer width="100%" height={240}>
        <ScatterChart margin={{ top: 12, right: 12, bottom: 24, left: 12 }}>
          <CartesianGrid stroke={RULE} />
          <XAxis
            dataKey="x"
            type="number"
            domain={['auto', 'auto']}
            tick={tick}
            stroke={QUIET}
            label={axisTitle(`predicted ${unit}`)}
          />
          <YAxis
            dataKey="y"
            type="number"
            tick={tick}
            stroke={QUIET}
            label={{ value: 'truth − prediction', angle: -90, position: 'insideLeft', style: small }}
          />
          <ReferenceLine y={0} stroke={INK} />
          <Tooltip {...tooltip} formatter={(value) => figureText(Number(value))} />
          <Scatter
            data={points}
            fill="var(--chakra-colors-figure)"
            fillOpacity={0.7}
            isAnimationActive={false}
          />
        </ScatterChart>
      </ResponsiveContainer>
    </Box>
  );
}
