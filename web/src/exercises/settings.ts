import { metricNamed, metricsFor, type MarkScheme, type Roles } from '@modest-sieve/core';
import { DateTime } from 'luxon';
import type { Schemas } from '../api/client.js';

export type Settings = Schemas['ExerciseSettings'];

const WEEK = 7;

/**
 * Points to begin with, which the instructor moves: for shares between guessing and very good; for errors in the
 * target's unit from its standard deviation (what predicting the mean costs) down to half of it. Common practice.
 */
export function firstScheme(key: string, sd: number): MarkScheme {
  const metric = metricNamed(key);
  const rounded = (value: number) => Number(value.toPrecision(2));
  const marks = { mostMarks: 8, marks: 10 };
  if (metric.needs === 'numbers' && metric.better === 'lower') {
    const unit = { target: sd, 'target²': sd * sd, none: 1 }[metric.unit];
    return { nothing: rounded(unit), most: rounded(unit * 0.7), all: rounded(unit * 0.5), ...marks };
  }
  if (metric.better === 'lower') return { nothing: 0.5, most: 0.25, all: 0.15, ...marks };
  // Guessing gets about 0 where less is possible, and about a half where it is not.
  const [low] = metric.range;
  return low === null || low < 0
    ? { nothing: 0, most: 0.5, all: 0.7, ...marks }
    : { nothing: 0.5, most: 0.75, all: 0.85, ...marks };
}

/** Metrics that can mark predictions: those that say how good, not in which direction. */
export const markingMetrics = (task: Roles['task']) =>
  metricsFor(task).filter((metric) => metric.key !== 'mean_error');

export function firstSettings(
  splitId: string,
  task: Roles['task'],
  target: string,
  sd: number,
  zone: string,
): Settings {
  const [metric] = markingMetrics(task);
  const key = task === 'multiclass' ? 'accuracy' : (metric?.key ?? 'accuracy');
  return {
    splitId,
    foldSetId: null,
    title: `Predict ${target}`,
    brief: `Fit a model on the training rows and predict **${target}** for the held-out rows.`,
    metric: key,
    scheme: firstScheme(key, sd),
    attempts: 5,
    counts: 'best',
    deadline:
      DateTime.now()
        .setZone(zone)
        .plus({ days: WEEK })
        .set({ hour: 18, minute: 0, second: 0, millisecond: 0 })
        .toISO() ?? '',
    feedback: 'after-return',
  };
}
