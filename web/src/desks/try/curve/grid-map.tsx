import { Box, Text } from '@chakra-ui/react';
import { shortNumber } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { modelFamilyOf } from '@modest-sieve/core/models';
import type { Schemas } from '../../../api/client.js';
import { figureText } from '../../../kit/table/format.js';
import { small } from '../../../kit/plot/plot-style.js';
import { settingLabel } from '../draft.js';

const CELL = 62;
const LEFT = 150;
const TOP = 34;

/** Two settings against each other: the better a pair, the larger its disc; best and simplest are named. */
export function GridMap({ trial, metric }: { trial: Schemas['TrialDetail']; metric: string }) {
  const [down, across] = trial.vary;
  if (!down || !across) return null;
  const kind = modelFamilyOf(trial.plan.model);
  const { better, name } = metricNamed(metric);
  const choice = trial.choices[metric] ?? null;
  const means = trial.settings.map(({ metrics }) => metrics[metric]?.mean ?? null);
  const known = means.filter((mean) => mean !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const goodness = (mean: number) => {
    const share = high > low ? (mean - low) / (high - low) : 1;
    return better === 'higher' ? share : 1 - share;
  };
  const width = LEFT + across.settings.length * CELL;
  const height = TOP + down.settings.length * CELL + 24;
  return (
    <Box as="figure" overflowX="auto" mt={3}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: '100%', maxWidth: width }}
        role="img"
        aria-label={`${name} by ${settingLabel(kind, down.key)} and ${settingLabel(kind, across.key)}`}
      >
        <text x={0} y={26} style={small}>
          {settingLabel(kind, down.key)}
        </text>
        <text x={LEFT} y={12} style={small}>
          {settingLabel(kind, across.key)}
        </text>
        {across.settings.map((value, c) => (
          <text key={value} x={LEFT + (c + 0.5) * CELL} y={26} textAnchor="middle" style={small}>
            {shortNumber(value)}
          </text>
        ))}
        {down.settings.map((value, r) => (
          <g key={value}>
            <text x={0} y={TOP + (r + 0.5) * CELL + 4} style={small}>
              {shortNumber(value)}
            </text>
            {across.settings.map((other, c) => {
              const place = r * across.settings.length + c;
              const mean = means[place] ?? null;
              const isChosen = choice?.best === place || choice?.simplest === place;
              const [x, y] = [LEFT + (c + 0.5) * CELL, TOP + (r + 0.5) * CELL];
              return (
                <g key={other}>
                  {mean === null ? null : (
                    <circle
                      cx={x}
                      cy={y - 6}
                      r={3 + 15 * goodness(mean)}
                      fill={`var(--chakra-colors-${isChosen ? 'accent' : 'bar'})`}
                    />
                  )}
                  <text
                    x={x}
                    y={y + 24}
                    textAnchor="middle"
                    style={{ ...small, fontWeight: isChosen ? 700 : 400 }}
                  >
                    {figureText(mean)}
                  </text>
                </g>
              );
            })}
          </g>
        ))}
      </svg>
      <Text fontSize="13.5px" color="quiet">
        {name}, mean over the folds; the larger the disc, the better. Dark: the best, and the simplest within
        one standard error of it.
      </Text>
    </Box>
  );
}
