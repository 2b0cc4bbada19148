import { Box } from '@chakra-ui/react';
import { metricNamed } from '@modest-sieve/core/metrics';
import { marksFor, type MarkScheme } from '@modest-sieve/core/assessment';
import { useState } from 'react';
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
import { axisOf, labelSides } from './axis.js';
import { figureText } from '../table/format.js';
import { ACCENT, axisTitle, INK, named, QUIET, RULE, small, tick, tooltip } from './plot-style.js';

type Point = 'nothing' | 'most' | 'all';

const RIGHT = 28;
const AXIS = 34;
/** What of the width is no axis of scores. */
const MARGINS = RIGHT + AXIS;

/** Steps by key. */
const STEPS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  PageDown: -10,
  PageUp: 10,
};

/**
 * A scheme with one of its points moved: to whole steps, within what the metric can be, and not past its neighbours,
 * for marks follow from nothing to most to all.
 */
export function movedPoint(
  scheme: MarkScheme,
  point: Point,
  score: number,
  step: number,
  range: readonly [number | null, number | null],
): MarkScheme {
  const order: readonly Point[] =
    scheme.all > scheme.nothing ? ['nothing', 'most', 'all'] : ['all', 'most', 'nothing'];
  const place = order.indexOf(point);
  const [before, after] = [order[place - 1], order[place + 1]];
  const least = before === undefined ? (range[0] ?? -Infinity) : scheme[before] + step;
  const most = after === undefined ? (range[1] ?? Infinity) : scheme[after] - step;
  const rounded = Math.round(Math.min(most, Math.max(least, score)) / step) * step;
  return { ...scheme, [point]: Number(rounded.toPrecision(6)) };
}

/** Marks over the axis of a metric: the line through the three points of a scheme. */
export function MarkLine({
  scheme,
  metricKey,
  reached = null,
  references = [],
  onScheme,
}: {
  scheme: MarkScheme;
  metricKey: string;
  /** A score to be shown on the line. */
  reached?: number | null;
  /** Scores of models that the instructor fitted. */
  references?: readonly { readonly score: number; readonly name: string }[];
  /** Called while a point is dragged, or stepped with the arrow keys; the points stand still where it is left out. */
  onScheme?: (scheme: MarkScheme) => void;
}) {
  /** The axis of the moment at which a point was taken up. */
  const [held, setHeld] = useState<ReturnType<typeof axisOf> | null>(null);
  const { name: metric, range } = metricNamed(metricKey);
  const shown = [...(reached === null ? [] : [reached]), ...references.map(({ score }) => score)];
  // The axis stands still while a point is held: it would run away under the pointer.
  const axis = held ?? axisOf([scheme.nothing, scheme.most, scheme.all, ...shown], range);
  const { domain, ticks } = axis;
  const [low, high] = domain;
  const anchors = (['nothing', 'most', 'all'] as const).map((text) => ({ score: scheme[text], text }));
  const sides = labelSides(
    anchors.map(({ score }) => score),
    domain,
  );
  const points = [{ score: low, text: null }, ...anchors, { score: high, text: null }]
    .sort((a, b) => a.score - b.score)
    .map(({ score, text }) => ({ score, text, marks: marksFor(scheme, score) }));
  const step = 10 ** Math.floor(Math.log10((high - low) / 100));
  const set = (point: Point, score: number) => onScheme?.(movedPoint(scheme, point, score, step, range));
  // Heard by the window: the plot draws its points again while one is moved.
  const drag = (point: Point, from: number, width: number) => {
    const unit = (high - low) / Math.max(1, width - MARGINS);
    const listening = new AbortController();
    const { signal } = listening;
    setHeld(axis);
    const end = () => {
      listening.abort();
      setHeld(null);
    };
    window.addEventListener(
      'pointermove',
      (event) => set(point, scheme[point] + (event.clientX - from) * unit),
      {
        signal,
      },
    );
    window.addEventListener('pointerup', end, { signal });
    window.addEventListener('pointercancel', end, { signal });
  };
  return (
    <Box
      role={onScheme ? 'group' : 'img'}
      aria-label={`Marks by ${metric}: none up to ${scheme.nothing}, ${scheme.mostMarks} at ${scheme.most}, ${scheme.marks} from ${scheme.all}${
        reached === null ? '' : `; ${marksFor(scheme, reached)} at the score ${figureText(reached)}`
      }`}
    >
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={points} margin={{ top: 34, right: RIGHT, bottom: 22, left: 0 }}>
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
            width={AXIS}
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
          {anchors.map(({ score, text }, i) => (
            <ReferenceLine
              key={text}
              x={score}
              stroke={ACCENT}
              strokeDasharray="2 3"
              label={{ value: text, position: 'top', offset: 9, style: { ...named, textAnchor: sides[i] } }}
            />
          ))}
          <Line
            dataKey="marks"
            stroke={ACCENT}
            strokeWidth={2}
            dot={({ cx = 0, cy = 0, index = 0 }: { cx?: number; cy?: number; index?: number }) => {
              const { text, score } = points[index] ?? { text: null, score: 0 };
              if (text === null) return <g key={index} />;
              const circle = (
                <circle
                  key={index}
                  cx={cx}
                  cy={cy}
                  r={onScheme ? 6 : 4}
                  fill="var(--chakra-colors-paper)"
                  stroke={ACCENT}
                  strokeWidth={2}
                />
              );
              if (!onScheme) return circle;
              return (
                <g
                  key={index}
                  role="slider"
                  tabIndex={0}
                  aria-label={`score for ${text}, on the line`}
                  aria-valuenow={score}
                  aria-valuetext={`${figureText(score)}, ${marksFor(scheme, score)} of ${scheme.marks} marks`}
                  aria-valuemin={low}
                  aria-valuemax={high}
                  style={{ cursor: 'ew-resize', touchAction: 'none' }}
                  onKeyDown={(event) => {
                    const way = STEPS[event.key];
                    if (way === undefined) return;
                    event.preventDefault();
                    event.stopPropagation();
                    set(text, score + way * step);
                  }}
                  onPointerDown={(event) => {
                    const { ownerSVGElement } = event.currentTarget;
                    drag(text, event.clientX, ownerSVGElement?.getBoundingClientRect().width ?? 0);
                  }}
                >
                  {circle}
                </g>
              );
            }}
            // What is drawn over a point under the pointer would take its place there.
            activeDot={!onScheme}
            isAnimationActive={false}
          />
          {references.map(({ score, name: run }, i) => (
            <ReferenceDot
              key={`${run} ${score}`}
              x={score}
              y={marksFor(scheme, score)}
              r={4}
              fill={QUIET}
              stroke="none"
              style={{ pointerEvents: 'none' }}
              label={{ value: String(i + 1), position: 'top', offset: 8, style: small }}
            />
          ))}
          {reached === null ? null : (
            <ReferenceDot x={reached} y={marksFor(scheme, reached)} r={6} fill={INK} stroke="none" />
          )}
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}
