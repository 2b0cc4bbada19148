import { at } from '../../../../foundation/numbers.js';
import { begin } from '../begun.js';
import { type Classes, type Context, likeliestOf, normalised, NOTHING, type Scorer } from '../model.js';
import { constantFor, numberFrom, type Row } from '../row.js';
import type { Scope } from '../scope.js';
import {
  childOf,
  childrenOf,
  type Element,
  needed,
  neededChild,
  numberOf,
  numbersOf,
  oneOf,
  refused,
  unsupported,
} from '../xml.js';

type Vector = readonly number[];

/** <SupportVectorMachineModel>: one machine for numbers, one or several for classes (PMML 4.4, Support Vector Machine). */
export function supportVectorMachineModel(element: Element, context: Context): Scorer {
  const { scope, isClassification, classes } = begin(element, context);
  const byCoefficients =
    oneOf(element, 'svmRepresentation', ['SupportVectors', 'Coefficients'], 'SupportVectors') ===
    'Coefficients';
  const dictionary = neededChild(element, 'VectorDictionary');
  const fields = vectorFields(dictionary, scope);
  const instances = new Map(
    childrenOf(dictionary, 'VectorInstance').map((one) => {
      const array = one.children.find(({ name }) => name === 'Array' || name.endsWith('SparseArray'));
      if (!array) throw refused('<VectorInstance> has no array.', one.line);
      return [needed(one, 'id'), numbersOf(array)] as const;
    }),
  );
  const kernel = kernelOf(element);
  const machines = childrenOf(element, 'SupportVectorMachine').map((machine) => ({
    element: machine,
    value: byCoefficients ? linear(machine) : expansion(machine, instances, kernel),
  }));
  if (machines.length === 0) throw refused('The model has no <SupportVectorMachine>.', element.line);
  const vectorOf = (row: Row): number[] | null => {
    const vector: number[] = [];
    for (const field of fields) {
      const value = field(row);
      if (value === null) return null;
      vector.push(value);
    }
    return vector;
  };
  if (!isClassification) {
    const { value } = at(machines, 0);
    return {
      isClassification,
      classes: null,
      score(row) {
        const vector = vectorOf(row);
        return vector ? { value: value(vector), shares: null } : NOTHING;
      },
    };
  }
  const decide = decision(element, machines, classes);
  return {
    isClassification,
    classes,
    score(row) {
      const vector = vectorOf(row);
      return vector ? decide(vector) : NOTHING;
    },
  };
}

function vectorFields(dictionary: Element, scope: Scope): ((row: Row) => number | null)[] {
  return neededChild(dictionary, 'VectorFields').children.map((one) => {
    if (one.name === 'FieldRef') {
      const { get } = scope.need(needed(one, 'field'), one);
      return (row) => numberFrom(get(row));
    }
    if (one.name !== 'CategoricalPredictor') throw unsupported(one);
    const { get, type } = scope.need(needed(one, 'name'), one);
    const value = constantFor(needed(one, 'value'), type, one);
    const coefficient = numberOf(one, 'coefficient', 1);
    return (row) => (get(row) === value ? coefficient : 0);
  });
}

const dot = (a: Vector, b: Vector) => a.reduce((sum, value, i) => sum + value * (b[i] ?? 0), 0);

function kernelOf(element: Element): (a: Vector, b: Vector) => number {
  const kernel = element.children.find(({ name }) => name.endsWith('KernelType'));
  if (!kernel) return dot;
  switch (kernel.name) {
    case 'LinearKernelType':
      return dot;
    case 'PolynomialKernelType': {
      const [gamma, c, degree] = [
        numberOf(kernel, 'gamma', 1),
        numberOf(kernel, 'coef0', 1),
        numberOf(kernel, 'degree', 1),
      ];
      return (a, b) => (gamma * dot(a, b) + c) ** degree;
    }
    case 'RadialBasisKernelType': {
      const gamma = numberOf(kernel, 'gamma', 1);
      return (a, b) => Math.exp(-gamma * a.reduce((sum, value, i) => sum + (value - (b[i] ?? 0)) ** 2, 0));
    }
    case 'SigmoidKernelType': {
      const [gamma, c] = [numberOf(kernel, 'gamma', 1), numberOf(kernel, 'coef0', 1)];
      return (a, b) => Math.tanh(gamma * dot(a, b) + c);
    }
    default:
      throw unsupported(kernel);
  }
}

function coefficientsOf(machine: Element): { values: number[]; constant: number } {
  const coefficients = neededChild(machine, 'Coefficients');
  return {
    values: childrenOf(coefficients, 'Coefficient').map((one) => numberOf(one, 'value', 0)),
    constant: numberOf(coefficients, 'absoluteValue', 0),
  };
}

function linear(machine: Element): (vector: Vector) => number {
  const { values, constant } = coefficientsOf(machine);
  return (vector) => dot(values, vector) + constant;
}

function expansion(
  machine: Element,
  instances: ReadonlyMap<string, Vector>,
  kernel: (a: Vector, b: Vector) => number,
): (vector: Vector) => number {
  const { values, constant } = coefficientsOf(machine);
  const list = childOf(machine, 'SupportVectors');
  const vectors = (list ? childrenOf(list, 'SupportVector') : []).map((one) => {
    const vector = instances.get(needed(one, 'vectorId'));
    if (!vector)
      throw refused(`<SupportVector> names “${needed(one, 'vectorId')}”, which is not there.`, one.line);
    return vector;
  });
  if (vectors.length !== values.length)
    throw refused(`A machine has ${vectors.length} vectors and ${values.length} coefficients.`, machine.line);
  return (vector) => vectors.reduce((sum, own, i) => sum + at(values, i) * kernel(own, vector), constant);
}

interface Machine {
  readonly element: Element;
  readonly value: (vector: Vector) => number;
}

/**
 * Below its threshold a machine says its own class, otherwise the alternative. Of one against all the class with the least
 * value wins, or the greatest where `maxWins`; of one against one the class with most votes.
 */
function decision(element: Element, machines: readonly Machine[], classes: Classes) {
  const method = oneOf(element, 'classificationMethod', ['OneAgainstAll', 'OneAgainstOne'], 'OneAgainstAll');
  const maxWins = element.attributes['maxWins'] === 'true';
  const general = numberOf(element, 'threshold', 0);
  const parts = machines.map(({ element: machine, value }) => ({
    value,
    own: classes.place(needed(machine, 'targetCategory')),
    other: machine.attributes['alternateTargetCategory'],
    threshold: numberOf(machine, 'threshold', general),
    line: machine.line,
  }));
  const isOneAgainstAll = method === 'OneAgainstAll' && parts.every(({ other }) => other === undefined);
  if (isOneAgainstAll) {
    if (parts.length < 2) throw refused('One machine alone needs an alternateTargetCategory.', element.line);
    return (vector: Vector) => {
      const best = parts
        .map(({ value, own }) => ({ own, value: value(vector) }))
        .reduce((a, b) => ((maxWins ? b.value > a.value : b.value < a.value) ? b : a));
      return sure(best.own, classes);
    };
  }
  const pairs = parts.map(({ other, line, ...part }) => {
    if (other === undefined) throw refused('<SupportVectorMachine> has no alternateTargetCategory.', line);
    return { ...part, other: classes.place(other) };
  });
  return (vector: Vector) => {
    const votes = new Float64Array(classes.labels.length);
    for (const { value, own, other, threshold } of pairs) {
      const winner = (maxWins ? value(vector) > threshold : value(vector) < threshold) ? own : other;
      votes[winner] = (votes[winner] ?? 0) + 1;
    }
    return likeliestOf(normalised(votes), classes);
  };
}

/** A class without a probability of its own: all of it. */
function sure(place: number, classes: Classes) {
  const shares = new Float64Array(classes.labels.length);
  shares[place] = 1;
  return likeliestOf(shares, classes);
}
