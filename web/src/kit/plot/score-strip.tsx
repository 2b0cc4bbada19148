import { Box } from '@chakra-ui/react';
import { metricNamed } from '@modest-sieve/core/metrics';
import type { MarkScheme } from '@modest-sieve/core/assessment';
import { ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts';
import { axisOf, labelLevels } from './axis.js';
import { figureText } from '../table/format.js';
import { ACCENT, axisTitle, named, QUIET, tick, tooltip } from './plot-style.js';

/** Height of a line of text. */
const LEVEL = 14;

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
  const lines = [
    { x: scheme.nothing, text: '0 marks' },
    { x: scheme.most, text: `${scheme.mostMarks} marks` },
    { x: scheme.all, text: `${scheme.marks} marks` },
  ];
  const levels = labelLevels(
    lines.map(({ x }) => x),
    domain,
  );
  const top = Math.max(4, ...points.map((p) => p.y)) + 1;
  return (
    <Box role="img" aria-label={`Scores: ${points.map((p) => `${p.name} ${figureText(p.x)}`).join(', ')}`}>
      <ResponsiveContainer width="100%" height={Math.min(260, 110 + top * 14) + Math.max(...levels) * LEVEL}>
        <ScatterChart margin={{ top: 22 + Math.max(...levels) * LEVEL, right: 60, bottom: 22, left: 8 }}>
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
          {lines.map(({ x, text }, i) => (
            <ReferenceLine
              key={text}
              x={x}
              stroke={ACCENT}
              strokeDasharray="2 3"
              label={{ value: text, position: 'top', offset: 5 + (levels[i] ?? 0) * LEVEL, style: named }}
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
