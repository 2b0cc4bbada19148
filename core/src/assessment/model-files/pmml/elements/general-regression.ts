import { at } from '../../../../foundation/numbers.js';
import { begin } from '../begun.js';
import { PROBABILITIES, PROBABILITY_LINKS } from '../links.js';
import { type Classes, type Context, likeliestOf, NOTHING, type Scorer, softmax } from '../model.js';
import { constantFor, numberFrom, type Row } from '../row.js';
import type { Scope } from '../scope.js';
import {
  childOf,
  childrenOf,
  type Element,
  needed,
  neededChild,
  numberIn,
  numberOf,
  oneOf,
  refused,
  unsupported,
} from '../xml.js';
import { inverseLink } from './regression-links.js';

const TYPES = [
  'regression',
  'generalLinear',
  'generalizedLinear',
  'multinomialLogistic',
  'ordinalMultinomial',
] as const;

/** A term of a parameter: the product of its cells for a row; null where a value is missing. */
type Term = (row: Row) => number | null;

/** <GeneralRegressionModel>: linear, generalised linear, multinomial and ordinal logistic models by parameters and cells. */
export function generalRegressionModel(element: Element, context: Context): Scorer {
  const { scope, isClassification, classes } = begin(element, context);
  const type = oneOf(element, 'modelType', TYPES);
  const terms = termsOf(element, scope);
  const betas = childrenOf(neededChild(element, 'ParamMatrix'), 'PCell').map((cell) => {
    const parameter = needed(cell, 'parameterName');
    const term = terms.get(parameter);
    if (!term) throw refused(`<PCell> names the parameter “${parameter}”, which is not declared.`, cell.line);
    return { category: cell.attributes['targetCategory'] ?? null, beta: numberOf(cell, 'beta'), term };
  });
  const offset = offsetOf(element, scope);
  /** The sum of the terms for one category, and of those for all. */
  const sumFor = (category: string | null) => {
    const own = betas.filter((one) => one.category === null || one.category === category);
    return (row: Row): number | null => {
      let sum = offset(row);
      for (const { beta, term } of own) {
        const value = term(row);
        if (value === null || sum === null) return null;
        sum += beta * value;
      }
      return sum;
    };
  };
  if (type === 'multinomialLogistic') return multinomial(element, betas, sumFor, classes);
  if (type === 'ordinalMultinomial') return ordinal(element, betas, sumFor, classes);
  if (isClassification && type !== 'generalizedLinear' && type !== 'generalLinear')
    throw unsupported(element, `modelType="${type}" for classes`);
  const inverse = type === 'generalizedLinear' ? inverseLink(element) : (value: number) => value;
  const sum = sumFor(null);
  if (!isClassification)
    return {
      isClassification,
      classes: null,
      score(row) {
        const value = sum(row);
        return value === null ? NOTHING : { value: inverse(value), shares: null };
      },
    };
  // Of two classes: the probability of the one that is not the reference.
  const reference = referenceOf(element, [], classes);
  const other = classes.labels.find((label) => label !== reference);
  if (other === undefined || classes.labels.length !== 2)
    throw unsupported(element, 'other than two classes');
  return {
    isClassification,
    classes,
    score(row) {
      const value = sum(row);
      if (value === null) return NOTHING;
      const share = inverse(value);
      const shares = new Float64Array(2);
      shares[classes.place(other)] = share;
      shares[classes.place(reference)] = 1 - share;
      return likeliestOf(shares, classes);
    },
  };
}

type Beta = { readonly category: string | null };

type SumFor = (category: string | null) => (row: Row) => number | null;

/** The category that has no parameters. */
function referenceOf(element: Element, betas: readonly Beta[], classes: Classes): string {
  const named = element.attributes['targetReferenceCategory'];
  if (named !== undefined) return named;
  const used = new Set(betas.map(({ category }) => category));
  const left = classes.labels.filter((label) => !used.has(label));
  const last = left.at(-1);
  if (last === undefined)
    throw refused('The reference category of the target is named nowhere.', element.line);
  return last;
}

function multinomial(element: Element, betas: readonly Beta[], sumFor: SumFor, classes: Classes): Scorer {
  const reference = referenceOf(element, betas, classes);
  for (const { category } of betas) if (category !== null) classes.place(category);
  const referencePlace = classes.place(reference);
  const sums = classes.labels.map((label) => sumFor(label));
  return {
    isClassification: true,
    classes,
    score(row) {
      const values = new Float64Array(classes.labels.length);
      for (let i = 0; i < sums.length; i++) {
        if (i === referencePlace) continue;
        const value = at(sums, i)(row);
        if (value === null) return NOTHING;
        values[i] = value;
      }
      return likeliestOf(softmax(values), classes);
    },
  };
}

/** Cumulative probabilities of ordered categories; the last one has the rest. */
function ordinal(element: Element, betas: readonly Beta[], sumFor: SumFor, classes: Classes): Scorer {
  const cumulative = PROBABILITIES[oneOf(element, 'cumulativeLink', PROBABILITY_LINKS, 'logit')];
  const used = new Set(betas.map(({ category }) => category));
  const ordered = classes.labels.filter((label) => used.has(label));
  const [last] = classes.labels.filter((label) => !used.has(label));
  if (last === undefined || ordered.length !== classes.labels.length - 1)
    throw refused('An ordinal model needs parameters for every category but the last.', element.line);
  const sums = ordered.map((label) => sumFor(label));
  return {
    isClassification: true,
    classes,
    score(row) {
      const shares = new Float64Array(classes.labels.length);
      let below = 0;
      for (let i = 0; i < sums.length; i++) {
        const value = at(sums, i)(row);
        if (value === null) return NOTHING;
        const upTo = cumulative(value);
        shares[classes.place(at(ordered, i))] = upTo - below;
        below = upTo;
      }
      shares[classes.place(last)] = 1 - below;
      return likeliestOf(shares, classes);
    },
  };
}

function offsetOf(element: Element, scope: Scope): (row: Row) => number | null {
  const variable = element.attributes['offsetVariable'];
  if (variable !== undefined) {
    const { get } = scope.need(variable, element);
    return (row) => numberFrom(get(row));
  }
  const value = numberOf(element, 'offsetValue', 0);
  return () => value;
}

function termsOf(element: Element, scope: Scope): Map<string, Term> {
  const predictors = (list: string) => {
    const found = childOf(element, list);
    return found ? childrenOf(found, 'Predictor') : [];
  };
  for (const predictor of predictors('FactorList'))
    if (childOf(predictor, 'Matrix')) throw unsupported(predictor, 'a contrast matrix');
  const factors = new Set(predictors('FactorList').map((one) => needed(one, 'name')));
  const covariates = new Set(predictors('CovariateList').map((one) => needed(one, 'name')));
  const cells = new Map<string, Term[]>();
  for (const parameter of childrenOf(neededChild(element, 'ParameterList'), 'Parameter'))
    cells.set(needed(parameter, 'name'), []);
  const matrix = childOf(element, 'PPMatrix');
  for (const cell of matrix ? childrenOf(matrix, 'PPCell') : []) {
    const parameter = needed(cell, 'parameterName');
    const own = cells.get(parameter);
    if (!own) throw refused(`<PPCell> names the parameter “${parameter}”, which is not declared.`, cell.line);
    if (cell.attributes['targetCategory'] !== undefined) throw unsupported(cell, 'a targetCategory');
    const name = needed(cell, 'predictorName');
    const { get, type } = scope.need(name, cell);
    if (factors.has(name)) {
      const value = constantFor(needed(cell, 'value'), type, cell);
      own.push((row) => {
        const held = get(row);
        return held === null ? null : held === value ? 1 : 0;
      });
    } else if (covariates.has(name)) {
      const exponent = numberIn(needed(cell, 'value'), cell, 'an exponent');
      own.push((row) => {
        const value = numberFrom(get(row));
        return value === null ? null : exponent === 1 ? value : value ** exponent;
      });
    } else throw refused(`<PPCell> names “${name}”, which is neither factor nor covariate.`, cell.line);
  }
  return new Map(
    Array.from(cells, ([name, own]): [string, Term] => [
      name,
      (row) => {
        let product = 1;
        for (const cell of own) {
          const value = cell(row);
          if (value === null) return null;
          product *= value;
        }
        return product;
      },
    ]),
  );
}
