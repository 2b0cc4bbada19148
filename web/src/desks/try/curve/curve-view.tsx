import { Box, Flex, Text } from '@chakra-ui/react';
import { shortNumber } from '@modest-sieve/core/foundation';
import { metricNamed, METRICS } from '@modest-sieve/core/metrics';
import { modelFamilyOf } from '@modest-sieve/core/models';
import {
  curveHyperparameter,
  TRAINING_SHARE,
  type Choice,
  type SettingSummary,
} from '@modest-sieve/core/evaluation';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { figureText } from '../../../kit/table/format.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { PlanChoice } from '../../../kit/sentence/plan-sentence.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { settingLabel } from '../draft.js';
import { GridMap } from './grid-map.js';

type Trial = Schemas['TrialDetail'];

/** Figures by setting: a curve along one, a grid of two. */
export function CurveView({ trial }: { trial: Trial }) {
  const [metric, setMetric] = useState(trial.plan.metric);
  const kind = modelFamilyOf(trial.plan.model);
  const [first, second] = trial.vary;
  if (!first)
    return <Text color="quiet">Nothing was varied in this run: its figures stand in the table.</Text>;
  const title = second
    ? `${settingLabel(kind, first.key)} and ${settingLabel(kind, second.key)}`
    : settingLabel(kind, first.key);
  const metrics = METRICS.flatMap(({ key, name }) =>
    key in trial.choices ? [{ value: key, text: name }] : [],
  );
  return (
    <Box>
      <Flex align="baseline" gap={4} wrap="wrap">
        <Subtitle>{`By ${title}`}</Subtitle>
        <PlanChoice label="metric of the curve" value={metric} choices={metrics} onChange={setMetric} />
      </Flex>
      {second ? (
        <GridMap trial={trial} metric={metric} />
      ) : (
        <Curve
          settings={trial.settings}
          choice={trial.choices[metric] ?? null}
          metric={metric}
          of={first.key}
          title={title}
          isSimpler={curveHyperparameter(kind, first.key).larger === 'simple'}
        />
      )}
    </Box>
  );
}

/** From the simplest setting at the left to the most complex; equally far apart, whatever their values. */
function Curve({
  settings,
  choice,
  metric,
  of,
  title,
  isSimpler,
}: {
  settings: readonly SettingSummary[];
  choice: Choice | null;
  metric: string;
  of: string;
  title: string;
  isSimpler: boolean;
}) {
  const valueAt = (place: number) => settings[place]?.values[of] ?? 0;
  const order = [...settings.keys()].sort((a, b) =>
    isSimpler ? valueAt(b) - valueAt(a) : valueAt(a) - valueAt(b),
  );
  const rank = new Map(order.map((place, i) => [place, i]));
  const figures = order.map((place) => settings[place]?.metrics[metric]);
  const points = (pick: (own: NonNullable<(typeof figures)[number]>) => number | null, withError: boolean) =>
    figures.flatMap((own, i) => {
      const y = own ? pick(own) : null;
      if (!own || y === null) return [];
      return [{ x: i, y, ...(withError && own.se !== null ? { error: own.se } : {}) }];
    });
  const text = (position: number) => shortNumber(valueAt(order[Math.round(position)] ?? 0));
  const step = Math.max(1, Math.ceil(order.length / 12));
  const ticks = order.map((_, i) => i).filter((i) => i % step === 0);
  const isShare = of === TRAINING_SHARE;
  const area = (places: readonly number[], words: string) => {
    const ranks = places.map((place) => rank.get(place) ?? 0);
    return ranks.length === 0
      ? []
      : [{ from: Math.min(...ranks) - 0.5, to: Math.max(...ranks) + 0.5, text: words }];
  };
  const mark = (place: number, words: string) => {
    const y = settings[place]?.metrics[metric]?.mean ?? null;
    return y === null
      ? []
      : [{ x: rank.get(place) ?? 0, y, text: `${words}: ${shortNumber(valueAt(place))}` }];
  };
  const { name, range } = metricNamed(metric);
  return (
    <>
      <LinePlot
        label={`${name} by ${title}`}
        series={[
          { name: 'T, on training rows', points: points((own) => own.train, false), colour: 'training' },
          {
            name: 'V, over the folds, ± standard error',
            points: points((own) => own.mean, true),
            colour: 'validation',
            dash: '6 4',
          },
        ]}
        x={{ title, domain: [-0.5, order.length - 0.5], ticks, text }}
        y={{ title: name, bounds: range }}
        areas={
          choice && !isShare
            ? [...area(choice.tooSimple, 'too simple'), ...area(choice.memorising, 'memorising')]
            : []
        }
        marks={
          choice && !isShare
            ? choice.best === choice.simplest
              ? mark(choice.best, 'best and simplest')
              : [...mark(choice.simplest, 'simplest within s.e.'), ...mark(choice.best, 'best')]
            : []
        }
        height={320}
      />
      <Text fontSize="13.5px" color="quiet">
        {isShare
          ? 'Where the line over the folds still gets better, more rows would help; a gap that stays is what the model has memorised.'
          : 'From simple at the left to complex at the right.'}
        {choice && !isShare
          ? ` Best ${figureText(settings[choice.best]?.metrics[metric]?.mean)}; within one standard error of it from ${shortNumber(valueAt(choice.simplest))} on.`
          : ''}
      </Text>
    </>
  );
}
