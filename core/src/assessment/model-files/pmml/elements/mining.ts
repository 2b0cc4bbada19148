import { at } from '../../../../foundation/numbers.js';
import { begin, within } from '../begun.js';
import {
  type Classes,
  type Context,
  likeliestOf,
  normalised,
  NOTHING,
  type Score,
  type Scorer,
} from '../model.js';
import { declareOutputs, type Outputs } from '../outputs.js';
import { predicateIn, type Predicate } from '../predicates.js';

import { childrenOf, type Element, neededChild, numberOf, oneOf, refused } from '../xml.js';

const METHODS = [
  'majorityVote',
  'weightedMajorityVote',
  'average',
  'weightedAverage',
  'median',
  'weightedMedian',
  'max',
  'sum',
  'weightedSum',
  'selectFirst',
  'modelChain',
] as const;
type Method = (typeof METHODS)[number];

interface Segment {
  readonly holds: Predicate;
  readonly weight: number;
  readonly scorer: Scorer;
  readonly outputs: Outputs;
}

interface Part {
  readonly weight: number;
  readonly score: Score;
}

/** Reads any model; handed in, since models hold models. */
export type ReadModel = (element: Element, context: Context) => Scorer;

/** <MiningModel>: several models and how their predictions become one (PMML 4.4, Multiple Models). */
export function miningModel(
  element: Element,
  context: Context,
  readModel: ReadModel,
  isModel: (element: Element) => boolean,
): Scorer {
  const { scope, isClassification, classes } = begin(element, context);
  const segmentation = neededChild(element, 'Segmentation');
  const method = oneOf(segmentation, 'multipleModelMethod', METHODS);
  const onMissing = oneOf(
    segmentation,
    'missingPredictionTreatment',
    ['continue', 'skipSegment', 'returnMissing'],
    'continue',
  );
  const segments = childrenOf(segmentation, 'Segment').map((segment): Segment => {
    const model = segment.children.find(isModel);
    if (!model) throw refused('<Segment> has no model.', segment.line);
    const scorer = readModel(model, within(scope, isClassification ? classes : null, context));
    return {
      holds: predicateIn(segment, scope),
      weight: numberOf(segment, 'weight', 1),
      scorer,
      // What a model puts out can be used by the segments after it.
      outputs: declareOutputs(model, scorer, scope),
    };
  });
  if (segments.length === 0) throw refused('<Segmentation> has no <Segment>.', segmentation.line);
  if (method === 'modelChain' || method === 'selectFirst') {
    const isChain = method === 'modelChain';
    const last = at(segments, segments.length - 1).scorer;
    return {
      isClassification: last.isClassification,
      classes: last.classes,
      score(row) {
        let score = NOTHING;
        for (const { holds, scorer, outputs } of segments) {
          if (holds(row) !== true) continue;
          score = scorer.score(row);
          outputs.set(row, score);
          if (!isChain) return score;
        }
        return score;
      },
    };
  }
  const combine = isClassification
    ? classCombination(method, classes)
    : numberCombination(method, segmentation);
  return {
    isClassification,
    classes: isClassification ? classes : null,
    score(row) {
      const parts: Part[] = [];
      for (const { holds, weight, scorer } of segments) {
        if (holds(row) !== true) continue;
        const score = scorer.score(row);
        if (score.value !== null) parts.push({ weight, score });
        else if (onMissing !== 'skipSegment') return NOTHING;
      }
      return parts.length === 0 ? NOTHING : combine(parts);
    },
  };
}

function numberCombination(method: Method, element: Element): (parts: readonly Part[]) => Score {
  const valuesOf = (parts: readonly Part[]) => parts.map(({ score }) => Number(score.value));
  const weightsOf = (parts: readonly Part[]) => parts.map(({ weight }) => weight);
  const of = (value: (values: number[], weights: number[]) => number) => (parts: readonly Part[]) => ({
    value: value(valuesOf(parts), weightsOf(parts)),
    shares: null,
  });
  const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);
  const product = (values: readonly number[], weights: readonly number[]) =>
    values.map((value, i) => value * at(weights, i));
  const own: Partial<Record<Method, (values: number[], weights: number[]) => number>> = {
    average: (values) => sum(values) / values.length,
    weightedAverage: (values, weights) => sum(product(values, weights)) / sum(weights),
    sum,
    weightedSum: (values, weights) => sum(product(values, weights)),
    max: (values) => Math.max(...values),
    median: (values) =>
      weightedMedian(
        values,
        values.map(() => 1),
      ),
    weightedMedian,
  };
  const value = own[method];
  if (!value) throw refused(`Numbers cannot be combined by “${method}”.`, element.line);
  return of(value);
}

/** The value up to which half of the weight lies; the mean of two where it lies between them. */
function weightedMedian(values: readonly number[], weights: readonly number[]): number {
  const order = values
    .map((value, i) => ({ value, weight: at(weights, i) }))
    .sort((a, b) => a.value - b.value);
  const half = weights.reduce((a, b) => a + b, 0) / 2;
  let below = 0;
  for (const [i, { value, weight }] of order.entries()) {
    below += weight;
    if (below > half) return value;
    if (below === half) return (value + (order[i + 1]?.value ?? value)) / 2;
  }
  return order.at(-1)?.value ?? NaN;
}

function classCombination(method: Method, classes: Classes): (parts: readonly Part[]) => Score {
  const sharesOf = ({ score }: Part) => {
    if (score.shares) return score.shares;
    const shares = new Float64Array(classes.labels.length);
    shares[classes.place(String(score.value))] = 1;
    return shares;
  };
  /** Sums of shares, or of votes, each part with a weight. */
  const summed =
    (isVote: boolean, isWeighted: boolean) =>
    (parts: readonly Part[]): Score => {
      const sums = new Float64Array(classes.labels.length);
      for (const part of parts) {
        const weight = isWeighted ? part.weight : 1;
        if (isVote) {
          const place = classes.place(String(part.score.value));
          sums[place] = (sums[place] ?? 0) + weight;
        } else sharesOf(part).forEach((share, i) => (sums[i] = (sums[i] ?? 0) + weight * share));
      }
      return likeliestOf(normalised(sums), classes);
    };
  const median = (parts: readonly Part[]): Score => {
    const weights = parts.map(({ weight }) => (method === 'median' ? 1 : weight));
    const medians = Float64Array.from(classes.labels, (_, i) =>
      weightedMedian(
        parts.map((part) => sharesOf(part)[i] ?? 0),
        weights,
      ),
    );
    return likeliestOf(normalised(medians), classes);
  };
  const surest = (parts: readonly Part[]): Score => {
    const one = parts.reduce((a, b) => (Math.max(...sharesOf(b)) > Math.max(...sharesOf(a)) ? b : a));
    return likeliestOf(sharesOf(one), classes);
  };
  const own: Partial<Record<Method, (parts: readonly Part[]) => Score>> = {
    majorityVote: summed(true, false),
    weightedMajorityVote: summed(true, true),
    weightedAverage: summed(false, true),
    weightedSum: summed(false, true),
    max: surest,
    median,
    weightedMedian: median,
  };
  return own[method] ?? summed(false, false);
}
