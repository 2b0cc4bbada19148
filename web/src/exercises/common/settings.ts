import { metricNamed } from '@modest-sieve/core/metrics';
import { BASELINES } from '@modest-sieve/core/models';
import { openTableLike } from '@modest-sieve/core/audit';
import {
  firstScheme,
  schemeFrom,
  questionKindOf,
  type MarkScheme,
  type Question,
  type Subject,
} from '@modest-sieve/core/assessment';
import { DateTime } from 'luxon';
import type { Schemas } from '../../api/client.js';

/** An exercise as it is composed. */
export type Settings = Omit<Schemas['ExerciseSettings'], 'questions'> & {
  readonly questions: readonly Question[];
};
export type Policy = Schemas['ExercisePolicy'];

const WEEK = 7;

/** What the composer knows of the data. */
export interface Data extends Subject {
  readonly name: string;
  /** The open data set that it looks like; null for none. */
  readonly known: string | null;
  /** Standard deviation of the target; 1 where it is no number. */
  readonly sd: number;
  /** Held-out rows of a saved split of which a score may be shown: one half of them. */
  readonly feedbackRows: (splitId: string) => number;
  /** Models that were tried over folds of its splits. */
  readonly tried: readonly Tried[];
}

/** A model that was tried, with its means over the folds by metric. */
interface Tried {
  readonly splitId: string | null;
  readonly isBaseline: boolean;
  readonly means: Readonly<Record<string, number | null>>;
}

/** What the composer may know of a data set that is marked, and of the runs on it. */
export function dataOf(
  { name, profile, roles, raw, versions, splits, foldSets }: Schemas['DataSetDetail'],
  runs: readonly Schemas['TrialInfo'][] = [],
): Data | null {
  if (!roles) return null;
  const brought = versions.find(({ number }) => number === raw.number)?.columns ?? [];
  const sd = profile.find((column) => column.name === roles.target)?.summary?.sd ?? 1;
  const tried = runs.flatMap(({ foldSetId, plan, result }): Tried[] => {
    const set = foldSets.find(({ id }) => id === foldSetId);
    if (!set || !result) return [];
    const means = Object.entries(result.chosen.metrics).map(([key, { mean }]) => [key, mean] as const);
    return [
      {
        splitId: set.splitId,
        isBaseline: BASELINES.includes(plan.model.kind),
        means: Object.fromEntries(means),
      },
    ];
  });
  const feedbackRows = (splitId: string) => {
    const parts = splits.find(({ id }) => id === splitId)?.consequences.parts ?? [];
    return Math.floor((parts.find(({ name }) => name === 'heldout')?.rows ?? 0) / 2);
  };
  return {
    name,
    columns: profile,
    roles,
    known: openTableLike(raw.rows, brought.length),
    sd,
    feedbackRows,
    tried,
  };
}

/** Points of marks to begin with: from the models that were tried on the split, or else what fits the target. */
export function schemeFor(metricKey: string, splitId: string, { tried, sd }: Data): MarkScheme {
  const metric = metricNamed(metricKey);
  const way = metric.better === 'higher' ? 1 : -1;
  const bestOf = (baselines: boolean) =>
    tried
      .filter((run) => run.splitId === splitId && run.isBaseline === baselines)
      .flatMap(({ means }) => means[metricKey] ?? [])
      .sort((a, b) => way * (b - a))
      .at(0);
  const begun = firstScheme(metric, sd);
  const best = bestOf(false);
  return (best === undefined ? null : schemeFrom(metric, bestOf(true) ?? begun.nothing, best)) ?? begun;
}

/** A question of a kind as it is begun, with points of marks that fit what is known. */
export function newQuestion(
  kind: Question['kind'],
  taken: readonly Question[],
  data: Data,
  splitId: string,
): Question {
  const ids = new Set(taken.map(({ id }) => id));
  let place = taken.length + 1;
  while (ids.has(`q${place}`)) place++;
  const question = questionKindOf(kind).begin(`q${place}`, data);
  return 'scheme' in question ? { ...question, scheme: schemeFor(question.metric, splitId, data) } : question;
}

export function firstSettings(splitId: string, data: Data, zone: string): Settings {
  const { target } = data.roles;
  return {
    splitId,
    foldSetId: null,
    reissued: false,
    title: `Predict ${target}`,
    brief: `Fit a model on the training rows and predict **${target}** for the held-out rows.`,
    questions: [newQuestion('predictions', [], data, splitId)],
    attempts: 5,
    perDay: null,
    counts: 'best',
    opensAt: null,
    deadline:
      DateTime.now()
        .setZone(zone)
        .plus({ days: WEEK })
        .set({ hour: 18, minute: 0, second: 0, millisecond: 0 })
        .toISO() ?? '',
    graceMinutes: 0,
    latePercent: 0,
    lateDays: 0,
    feedback: 'after-return',
    slips: 'after-return',
  };
}

/** The settings of an exercise that was saved; questions are known to instructors alone. */
export const settingsIn = (exercise: Schemas['ExerciseDetail']): Settings => ({
  splitId: exercise.splitId,
  foldSetId: exercise.foldSetId,
  reissued: exercise.reissued,
  title: exercise.title,
  brief: exercise.brief,
  questions: exercise.composed ?? [],
  attempts: exercise.attempts,
  perDay: exercise.perDay,
  counts: exercise.counts,
  opensAt: exercise.opensAt,
  deadline: exercise.deadline,
  graceMinutes: exercise.graceMinutes,
  latePercent: exercise.latePercent,
  lateDays: exercise.lateDays,
  feedback: exercise.feedback,
  slips: exercise.slips ?? 'after-return',
});
