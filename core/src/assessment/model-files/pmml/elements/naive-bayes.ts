import { at } from '../../../../foundation/numbers.js';
import { begin } from '../begun.js';
import { derivedField } from '../fields.js';
import { type Classes, type Context, likeliestOf, type Scorer, softmax } from '../model.js';
import { asType, type Field, numberFrom, type Row, type Value } from '../row.js';
import type { Scope } from '../scope.js';
import {
  childOf,
  childrenOf,
  type Element,
  needed,
  neededChild,
  numberOf,
  refused,
  unsupported,
} from '../xml.js';

/** Logarithms of likelihoods that a value adds to each class; null where it says nothing. */
type Likelihoods = (row: Row) => Float64Array | null;

/**
 * <NaiveBayesModel>: counts of categories, Gaussian and Poisson densities. A likelihood of 0 is replaced by the threshold;
 * a missing or unknown value says nothing (PMML 4.4, Naive Bayes).
 */
export function naiveBayesModel(element: Element, context: Context): Scorer {
  const { scope, classes, isClassification } = begin(element, context);
  if (!isClassification) throw unsupported(element, 'functionName="regression"');
  const threshold = numberOf(element, 'threshold');
  const output = neededChild(neededChild(element, 'BayesOutput'), 'TargetValueCounts');
  const prior = countsOf(output, classes, true);
  const inputs = childrenOf(neededChild(element, 'BayesInputs'), 'BayesInput').map((input) =>
    likelihoodsOf(input, scope, classes, threshold),
  );
  const start = prior.map(Math.log);
  return {
    isClassification,
    classes,
    score(row) {
      const sums = start.slice();
      for (const input of inputs) {
        const own = input(row);
        if (own) for (let i = 0; i < sums.length; i++) sums[i] = (sums[i] ?? 0) + (own[i] ?? 0);
      }
      return likeliestOf(softmax(sums), classes);
    },
  };
}

function countsOf(element: Element, classes: Classes, mayAdd = false): Float64Array {
  const counts: number[] = [];
  for (const one of childrenOf(element, 'TargetValueCount')) {
    const label = needed(one, 'value');
    if (!mayAdd && !classes.labels.includes(label))
      throw refused(`<TargetValueCount> has the class “${label}”, which <BayesOutput> lacks.`, one.line);
    counts[classes.place(label)] = numberOf(one, 'count');
  }
  return Float64Array.from(classes.labels, (_, i) => counts[i] ?? 0);
}

function likelihoodsOf(input: Element, scope: Scope, classes: Classes, threshold: number): Likelihoods {
  const name = needed(input, 'fieldName');
  const derived = childOf(input, 'DerivedField');
  const field = derived ? derivedField(name, derived, scope) : scope.need(name, input);
  const stats = childOf(input, 'TargetValueStats');
  return stats ? ofDensities(stats, field, classes, threshold) : ofCounts(input, field, classes, threshold);
}

function ofCounts(input: Element, { get, type }: Field, classes: Classes, threshold: number): Likelihoods {
  const pairs = childrenOf(input, 'PairCounts').map((pair) => ({
    value: asType(needed(pair, 'value'), type),
    counts: countsOf(neededChild(pair, 'TargetValueCounts'), classes),
  }));
  const totals = classes.labels.map((_, i) => pairs.reduce((sum, { counts }) => sum + (counts[i] ?? 0), 0));
  const logs = new Map<Value, Float64Array>(
    pairs.map(({ value, counts }) => [
      value,
      counts.map((count, i) => Math.log(count > 0 ? count / at(totals, i) : threshold)),
    ]),
  );
  return (row) => logs.get(get(row)) ?? null;
}

function ofDensities(stats: Element, { get }: Field, classes: Classes, threshold: number): Likelihoods {
  const densities: ((x: number) => number)[] = [];
  for (const one of childrenOf(stats, 'TargetValueStat')) {
    const gaussian = childOf(one, 'GaussianDistribution');
    const poisson = childOf(one, 'PoissonDistribution');
    const place = classes.labels.indexOf(needed(one, 'value'));
    if (place < 0)
      throw refused(
        `<TargetValueStat> has a class that <BayesOutput> lacks: “${needed(one, 'value')}”.`,
        one.line,
      );
    if (gaussian) {
      const [mean, variance] = [numberOf(gaussian, 'mean'), numberOf(gaussian, 'variance')];
      if (variance <= 0) throw refused('A variance is not above 0.', gaussian.line);
      densities[place] = (x) => -((x - mean) ** 2) / (2 * variance) - Math.log(2 * Math.PI * variance) / 2;
    } else if (poisson) {
      const mean = numberOf(poisson, 'mean');
      if (mean <= 0) throw refused('A mean is not above 0.', poisson.line);
      densities[place] = (x) => x * Math.log(mean) - mean - logFactorial(x);
    } else throw unsupported(one, one.children[0] ? `<${one.children[0].name}>` : 'no distribution');
  }
  const least = threshold > 0 ? Math.log(threshold) : -Infinity;
  return (row) => {
    const x = numberFrom(get(row));
    if (x === null) return null;
    // A class without a distribution has a likelihood of 0.
    return Float64Array.from(classes.labels, (_, i) => Math.max(least, densities[i]?.(x) ?? -Infinity));
  };
}

function logFactorial(n: number): number {
  let sum = 0;
  for (let i = 2; i <= n && i < 1e6; i++) sum += Math.log(i);
  return sum;
}
