import { rowsFor, judgeAgainst, type AnswerKey, type FurtherKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom } from '../../../foundation/random/random.js';
import { membersOf, percentiles } from '../../../metrics/intervals/bootstrap.js';
import { FEWEST_GROUPS, intervalOf, type Interval } from '../../../metrics/intervals/interval.js';
import { figureOf, resampled } from '../../../metrics/judged.js';
import type { Metric } from '../../../metrics/metric.js';
import { metricNamed } from '../../../metrics/registry.js';
import { lineFor } from '../../marking/doubt.js';
import type { FurtherScore } from '../../marking/further-score.js';
import { marksFor } from '../../marking/scheme.js';
import { rounded } from '../contract/credit.js';
import { furtherMetric, type FurtherFigure } from './further.js';

/** Draws of the bootstrap of a gap, whose seed gives the same file the same interval. */
const [DRAWS, SEED] = [500, 0];

/** A figure, and those of its subgroups with their rows. */
interface Found {
  readonly score: number | null;
  readonly groups: FurtherScore['groups'];
  readonly members: readonly Int32Array[];
}

/** The figure of a further key on some rows, and those of its subgroups. */
export function furtherFigure(
  key: FurtherKey,
  answers: AnswerKey,
  predictions: Predictions,
  rows: Int32Array,
): Found {
  const metric = metricNamed(key.metric);
  const members = key.labels.map((_, code) => rows.filter((row) => key.codes[row] === code));
  const groups = members.map((own, code) => ({
    label: at(key.labels, code),
    rows: own.length,
    score: figureOf(metric, judgeAgainst(answers, predictions, own)).value,
  }));
  return { score: together(key.how, groups, metric), groups, members };
}

/** The one figure, the worst, or the largest gap; null where one of them is undefined. */
function together(
  how: FurtherKey['how'],
  groups: readonly { readonly score: number | null }[],
  { better }: Pick<Metric, 'better'>,
): number | null {
  const scores = groups.flatMap(({ score }) => (score === null ? [] : [score]));
  if (scores.length < groups.length || scores.length === 0) return null;
  const [least, most] = [Math.min(...scores), Math.max(...scores)];
  if (how === 'gap') return most - least;
  return better === 'higher' ? least : most;
}

/**
 * Marks the further figures of an answer on the final rows.
 *
 * @param share of its marks that the first figure earned: what guesses can reach earns no larger one
 */
export function markFurther(
  further: readonly FurtherFigure[],
  content: Predictions,
  answers: AnswerKey,
  share: number,
): FurtherScore[] {
  const rows = rowsFor(answers, 'final');
  return further.map((one, place) => {
    const key = at(answers.further ?? [], place);
    const found = furtherFigure(key, answers, content, rows);
    const { score, groups } = found;
    const line = lineFor(one.scheme, furtherMetric(one), key.floor, 0);
    const marks = marksFor(line, score);
    return {
      title: key.title,
      metric: key.metric,
      how: key.how,
      rows: groups.reduce((sum, group) => sum + group.rows, 0),
      score,
      interval: intervalFor(key, answers, content, found),
      line,
      marks: key.beside ? rounded(Math.min(marks, share * line.marks)) : marks,
      groups: key.how === 'rows' ? [] : groups,
    };
  });
}

/**
 * The interval of a further figure: that of its rows, or of the subgroup that was found the worst; of a gap a percentile
 * bootstrap of the difference between the two subgroups that were found, in which the rows of each, or its whole groups
 * where rows come in groups, are drawn among themselves. That they were found the worst, or the farthest apart, is not in it.
 */
function intervalFor(key: FurtherKey, answers: AnswerKey, content: Predictions, shown: Found): Interval {
  const metric = metricNamed(key.metric);
  const { score, members, groups } = shown;
  if (score === null) return { low: null, high: null, reason: 'the figure itself is undefined' };
  const groupsOf = (own: Int32Array) =>
    answers.groups ? own.map((row) => at(answers.groups ?? own, row)) : null;
  const place = (wanted: number) => groups.findIndex((group) => group.score === wanted);
  if (key.how !== 'gap') {
    const own = at(members, place(score));
    return intervalOf(metric, judgeAgainst(answers, content, own), groupsOf(own), { seed: SEED });
  }
  const scores = groups.map((group) => group.score ?? NaN);
  const pair = [Math.max(...scores), Math.min(...scores)].map((wanted) => {
    const own = at(members, place(wanted));
    const by = groupsOf(own);
    return {
      judged: judgeAgainst(answers, content, own),
      units: by ? membersOf(by) : Array.from(indices(own.length), (row) => Int32Array.of(row)),
    };
  });
  const fewest = Math.min(...pair.map(({ units }) => units.length));
  if (answers.groups && fewest < FEWEST_GROUPS)
    return {
      low: null,
      high: null,
      reason: `a subgroup has ${fewest} groups, too few to judge by: at least ${FEWEST_GROUPS} are needed`,
    };
  const random = seededRandom(SEED, 'bootstrap');
  const redrawn = ({ judged, units }: (typeof pair)[number]) => {
    const drawn = Array.from({ length: units.length }, () => at(units, random.below(units.length)));
    return figureOf(metric, resampled(judged, Int32Array.from(drawn.flatMap((own) => [...own])))).value;
  };
  const differences = Array.from({ length: DRAWS }, () => pair.map(redrawn)).flatMap(([high, low]) =>
    high == null || low == null ? [] : [high - low],
  );
  if (differences.length < DRAWS / 2)
    return { low: null, high: null, reason: 'most redrawn samples leave the figure undefined' };
  return {
    ...percentiles(Float64Array.from(differences).sort(), 0.95),
    method: answers.groups ? 'bootstrap of groups' : 'bootstrap',
  };
}
