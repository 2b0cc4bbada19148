import { at } from '../../../../foundation/numbers.js';
import { begin } from '../begun.js';
import { isProbabilityLink, PROBABILITIES } from '../links.js';
import {
  type Context,
  likeliestOf,
  normalised,
  NOTHING,
  type Score,
  type Scorer,
  softmax,
} from '../model.js';
import { constantFor, numberFrom, type Row } from '../row.js';
import type { Scope } from '../scope.js';
import { childrenOf, type Element, needed, numberOf, oneOf, refused } from '../xml.js';

const METHODS = [
  'none',
  'simplemax',
  'softmax',
  'logit',
  'probit',
  'cloglog',
  'exp',
  'loglog',
  'cauchit',
] as const;
type Method = (typeof METHODS)[number];

/** The value of a table for a row; null where a number is missing. */
type Sum = (row: Row) => number | null;

/**
 * <RegressionModel>: a sum of terms for a number, or one for each class.
 *
 * Of two classes the first has the probability that its sum gives and the second the rest; of more, "none" leaves the rest to
 * the last class and other methods are made to sum to 1 (PMML 4.4, Regression, from memory).
 */
export function regressionModel(element: Element, context: Context): Scorer {
  const { scope, isClassification, classes } = begin(element, context);
  const method = oneOf(element, 'normalizationMethod', METHODS, 'none');
  const tables = childrenOf(element, 'RegressionTable');
  if (tables.length === 0) throw refused('<RegressionModel> has no <RegressionTable>.', element.line);
  const sums = tables.map((table) => sumOf(table, scope));
  if (!isClassification) {
    const sum = at(sums, 0);
    const normalise = ofNumber(method, element);
    return {
      isClassification,
      classes: null,
      score(row) {
        const value = sum(row);
        return value === null ? NOTHING : { value: normalise(value), shares: null };
      },
    };
  }
  const places = tables.map((table) => classes.place(needed(table, 'targetCategory')));
  // Some programs leave out the table of the second of two classes.
  const other = classes.labels.findIndex((_, label) => !places.includes(label));
  if (places.length === 1 && classes.labels.length === 2 && method !== 'softmax') {
    places.push(other);
    sums.push(() => 0);
  }
  if (places.length < 2)
    throw refused('A classification has a <RegressionTable> for each class.', element.line);
  return {
    isClassification,
    classes,
    score(row): Score {
      const values = new Float64Array(sums.length);
      for (let i = 0; i < sums.length; i++) {
        const value = at(sums, i)(row);
        if (value === null) return NOTHING;
        values[i] = value;
      }
      const own = sharesOf(values, method);
      const shares = new Float64Array(classes.labels.length);
      own.forEach((share, i) => (shares[at(places, i)] = share));
      return likeliestOf(shares, classes);
    },
  };
}

function ofNumber(method: Method, element: Element): (value: number) => number {
  if (isProbabilityLink(method)) return PROBABILITIES[method];
  switch (method) {
    case 'none':
      return (value) => value;
    case 'softmax':
      return PROBABILITIES.logit;
    case 'exp':
      return Math.exp;
    case 'simplemax':
      throw refused('A regression cannot be normalised by “simplemax”.', element.line);
  }
}

function sharesOf(values: Float64Array, method: Method): Float64Array {
  if (method === 'softmax') return softmax(values);
  if (method === 'simplemax') return normalised(values);
  const each = (value: number) =>
    method === 'none' ? value : method === 'exp' ? Math.exp(value) : PROBABILITIES[method](value);
  if (values.length === 2) {
    const first = each(values[0] ?? 0);
    return Float64Array.of(first, 1 - first);
  }
  if (method !== 'none') return normalised(values.map(each));
  const shares = values.slice();
  shares[shares.length - 1] = 1 - shares.subarray(0, -1).reduce((a, b) => a + b, 0);
  return shares;
}

function sumOf(table: Element, scope: Scope): Sum {
  const intercept = numberOf(table, 'intercept', 0);
  const numeric = childrenOf(table, 'NumericPredictor').map((one) => ({
    get: scope.need(needed(one, 'name'), one).get,
    coefficient: numberOf(one, 'coefficient'),
    exponent: numberOf(one, 'exponent', 1),
  }));
  const categorical = childrenOf(table, 'CategoricalPredictor').map((one) => {
    const { get, type } = scope.need(needed(one, 'name'), one);
    return {
      get,
      value: constantFor(needed(one, 'value'), type, one),
      coefficient: numberOf(one, 'coefficient'),
    };
  });
  const products = childrenOf(table, 'PredictorTerm').map((one) => ({
    coefficient: numberOf(one, 'coefficient'),
    gets: childrenOf(one, 'FieldRef').map((ref) => scope.need(needed(ref, 'field'), ref).get),
  }));
  return (row) => {
    let sum = intercept;
    for (const { get, coefficient, exponent } of numeric) {
      const value = numberFrom(get(row));
      if (value === null) return null;
      sum += coefficient * (exponent === 1 ? value : value ** exponent);
    }
    // A category that is missing adds nothing.
    for (const { get, value, coefficient } of categorical) if (get(row) === value) sum += coefficient;
    for (const { coefficient, gets } of products) {
      let product = coefficient;
      for (const get of gets) {
        const value = numberFrom(get(row));
        if (value === null) return null;
        product *= value;
      }
      sum += product;
    }
    return sum;
  };
}
