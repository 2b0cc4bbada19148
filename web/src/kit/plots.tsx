import { Box } from '@chakra-ui/react';
import { marksFor, type MarkScheme } from '@modest-sieve/core';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts';
import { figureText } from './format.js';

const INK = 'var(--chakra-colors-ink)';
const QUIET = 'var(--chakra-colors-quiet)';
const RULE = 'var(--chakra-colors-rule)';
const ACCENT = 'var(--chakra-colors-accent)';

const tick = { fill: QUIET, fontSize: 12 };
const tooltip = {
  contentStyle: { background: 'var(--chakra-colors-sheet)', border: `1px solid ${RULE}`, color: INK, fontSize: 13 },
  itemStyle: { color: INK },
};
const axisTitle = (value: string) => ({ value, position: 'insideBottom' as const, offset: -12, fill: QUIET, fontSize: 12.5 });

/** The range of an axis that shows all points with some room, and round ends. */
function rangeOf(points: readonly number[]): [number, number] {
  const low = Math.min(...points);
  const high = Math.max(...points);
  const room = (high - low || Math.abs(high) || 1) * 0.15;
  const step = 10 ** Math.floor(Math.log10(room));
  return [Math.floor((low - room) / step) * step, Math.ceil((high + room) / step) * step].map((v) => Number(v.toPrecision(6))) as [
    number,
    number,
  ];
}

/** Marks over the axis of a metric: the line through the three points of a scheme. */
export function MarkLine({ scheme, metric }: { scheme: MarkScheme; metric: string }) {
  const [low, high] = rangeOf([scheme.nothing, scheme.most, scheme.all]);
  const points = [low, scheme.nothing, scheme.most, scheme.all, high]
    .sort((a, b) => a - b)
    .map((score) => ({ score, marks: marksFor(scheme, score) }));
  const named = [
    { score: scheme.nothing, text: 'nothing' },
    { score: scheme.most, text: 'most' },
    { score: scheme.all, text: 'all' },
  ];
  return (
    <Box role="img" aria-label={`Marks by ${metric}: none up to ${scheme.nothing}, ${scheme.mostMarks} at ${scheme.most}, ${scheme.marks} from ${scheme.all}`}>
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={points} margin={{ top: 24, right: 28, bottom: 22, left: 0 }}>
          <CartesianGrid vertical={false} stroke={RULE} />
          <XAxis dataKey="score" type="number" domain={[low, high]} tick={tick} stroke={QUIET} tickFormatter={(v: number) => String(Number(v.toPrecision(4)))} label={axisTitle(metric)} />
          <YAxis tick={tick} stroke="none" width={34} domain={[0, scheme.marks]} label={{ value: 'marks', position: 'top', fill: QUIET, fontSize: 12.5 }} />
          <Tooltip {...tooltip} formatter={(value) => [`${String(value)} marks`, '']} labelFormatter={(label) => `${metric} ${figureText(Number(label))}`} separator="" />
          {named.map(({ score, text }) => (
            <ReferenceLine key={text} x={score} stroke={ACCENT} strokeDasharray="2 3" label={{ value: text, position: 'top', fill: ACCENT, fontSize: 12 }} />
          ))}
          <Line dataKey="marks" stroke={ACCENT} strokeWidth={2} dot={{ r: 4, fill: 'var(--chakra-colors-paper)', stroke: ACCENT, strokeWidth: 2 }} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}

/** Scores of a class over the points of the mark line; equal scores are stacked. */
export function ScoreStrip({ scores, scheme, metric, chosen }: { scores: readonly { id: string; name: string; score: number }[]; scheme: MarkScheme; metric: string; chosen: string | null }) {
  const [low, high] = rangeOf([scheme.nothing, scheme.most, scheme.all, ...scores.map((s) => s.score)]);
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
          <XAxis dataKey="x" type="number" domain={[low, high]} tick={tick} stroke={QUIET} tickFormatter={(v: number) => String(Number(v.toPrecision(4)))} label={axisTitle(metric)} />
          <YAxis dataKey="y" type="number" domain={[0, top]} hide />
          <Tooltip
            content={({ payload }) => {
              const point = payload[0]?.payload as (typeof points)[number] | undefined;
              return point ? <Box {...{ style: { ...tooltip.contentStyle, padding: 6 } }}>{`${point.name}: ${figureText(point.x)}`}</Box> : null;
            }}
          />
          {[
            { x: scheme.nothing, text: '0 marks' },
            { x: scheme.most, text: `${scheme.mostMarks}` },
            { x: scheme.all, text: `${scheme.marks} marks` },
          ].map(({ x, text }) => (
            <ReferenceLine key={text} x={x} stroke={ACCENT} strokeDasharray="2 3" label={{ value: text, position: 'top', fill: ACCENT, fontSize: 12 }} />
          ))}
          <Scatter data={points.filter((p) => p.id !== chosen)} fill="var(--chakra-colors-figure)" isAnimationActive={false} />
          <Scatter data={points.filter((p) => p.id === chosen)} fill={ACCENT} isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </Box>
  );
}

/** Residuals (truth − prediction) against predictions. */
export function ResidualPlot({ predicted, residual, unit }: { predicted: readonly number[]; residual: readonly number[]; unit: string }) {
  const points = predicted.map((x, i) => ({ x, y: residual[i] ?? 0 }));
  return (
    <Box role="img" aria-label={`Residuals of ${points.length} rows against the prediction`}>
      <ResponsiveContainer width="100%" height={240}>
        <ScatterChart margin={{ top: 12, right: 12, bottom: 24, left: 12 }}>
          <CartesianGrid stroke={RULE} />
          <XAxis dataKey="x" type="number" domain={['auto', 'auto']} tick={tick} stroke={QUIET} label={axisTitle(`predicted ${unit}`)} />
          <YAxis dataKey="y" type="number" tick={tick} stroke={QUIET} label={{ value: 'truth − prediction', angle: -90, position: 'insideLeft', fill: QUIET, fontSize: 12.5 }} />
          <ReferenceLine y={0} stroke={INK} />
          <Tooltip {...tooltip} formatter={(value) => figureText(Number(value))} />
          <Scatter data={points} fill="var(--chakra-colors-figure)" fillOpacity={0.7} isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </Box>
  );
}
