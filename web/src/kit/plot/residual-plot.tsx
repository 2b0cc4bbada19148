import { Box } from '@chakra-ui/react';
import {
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { figureText } from '../table/format.js';
import { axisTitle, INK, QUIET, RULE, small, tick, tooltip } from './plot-style.js';

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
