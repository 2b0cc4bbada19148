import type { Expression } from './expression.js';
import { at } from '../../../foundation/numbers.js';
import { functionNamed } from './functions.js';
import { intervalOf } from './interval.js';
import { asType, constantFor, numberFrom, type FieldType, type Value, typeOf } from './row.js';
import { Scope } from './scope.js';
import {
  childrenOf,
  childOf,
  type Element,
  needed,
  neededChild,
  numberOf,
  oneOf,
  refused,
  unsupported,
} from './xml.js';

/** @throws SieveError `model-file` for what is not supported, with its line */
export function compileExpression(element: Element, scope: Scope): Expression {
  const compile = EXPRESSIONS[element.name];
  if (!compile) throw unsupported(element);
  return compile(element, scope);
}

const missingOr = (element: Element, name: string, type: FieldType): Value => {
  const text = element.attributes[name];
  return text === undefined ? null : constantFor(text, type, element);
};

const EXPRESSIONS: Readonly<Record<string, (element: Element, scope: Scope) => Expression>> = {
  Constant(element) {
    const { text } = element;
    if (element.attributes['missing'] === 'true') return { type: 'string', get: () => null };
    const isNumber = text.trim() !== '' && !Number.isNaN(Number(text));
    const type = typeOf(element, isNumber ? 'number' : 'string');
    const value = constantFor(type === 'string' ? text : text.trim(), type, element);
    return { type, get: () => value };
  },

  FieldRef(element, scope) {
    const field = scope.need(needed(element, 'field'), element);
    const missing = missingOr(element, 'mapMissingTo', field.type);
    return missing === null ? field : { type: field.type, get: (row) => field.get(row) ?? missing };
  },

  NormContinuous(element, scope) {
    const field = scope.need(needed(element, 'field'), element);
    const map = linearNorm(element);
    const missing = missingOr(element, 'mapMissingTo', 'number');
    return {
      type: 'number',
      get(row) {
        const value = numberFrom(field.get(row));
        return value === null ? missing : map(value);
      },
    };
  },

  NormDiscrete(element, scope) {
    const field = scope.need(needed(element, 'field'), element);
    const value = constantFor(needed(element, 'value'), field.type, element);
    const missing = missingOr(element, 'mapMissingTo', 'number');
    return {
      type: 'number',
      get(row) {
        const own = field.get(row);
        return own === null ? missing : own === value ? 1 : 0;
      },
    };
  },

  Discretize(element, scope) {
    const field = scope.need(needed(element, 'field'), element);
    const type = typeOf(element, 'string');
    const missing = missingOr(element, 'mapMissingTo', type);
    const otherwise = missingOr(element, 'defaultValue', type);
    const bins = childrenOf(element, 'DiscretizeBin').map((bin) => ({
      lies: intervalOf(neededChild(bin, 'Interval')),
      value: constantFor(needed(bin, 'binValue'), type, bin),
    }));
    return {
      type,
      get(row) {
        const own = numberFrom(field.get(row));
        if (own === null) return missing;
        return bins.find(({ lies }) => lies(own))?.value ?? otherwise;
      },
    };
  },

  MapValues(element, scope) {
    const type = typeOf(element, 'string');
    const missing = missingOr(element, 'mapMissingTo', type);
    const otherwise = missingOr(element, 'defaultValue', type);
    const output = needed(element, 'outputColumn');
    const pairs = childrenOf(element, 'FieldColumnPair').map((pair) => ({
      field: scope.need(needed(pair, 'field'), pair),
      column: needed(pair, 'column'),
    }));
    const table = childOf(element, 'InlineTable');
    if (!table) throw unsupported(element, 'a table outside the file');
    const rows = new Map<string, Value>();
    for (const row of childrenOf(table, 'row')) {
      const cell = (column: string) => row.children.find((one) => one.name === column)?.text;
      const key = pairs.map(({ field, column }) => keyOf(asType(cell(column) ?? null, field.type)));
      const value = cell(output);
      if (value !== undefined && !rows.has(key.join(SEPARATOR)))
        rows.set(key.join(SEPARATOR), constantFor(value, type, row));
    }
    return {
      type,
      get(row) {
        const values = pairs.map(({ field }) => field.get(row));
        if (values.includes(null)) return missing;
        return rows.get(values.map(keyOf).join(SEPARATOR)) ?? otherwise;
      },
    };
  },

  Apply(element, scope) {
    const name = needed(element, 'function');
    const missing = missingOr(element, 'mapMissingTo', 'string');
    const otherwise = missingOr(element, 'defaultValue', 'string');
    const operands = element.children.map((child) => compileExpression(child, scope));
    const own = scope.shared.functions.get(name);
    const called = own ? callOf(own, operands, element, scope) : functionNamed(name, operands, element);
    if (missing === null && otherwise === null) return called;
    return {
      type: called.type,
      get(row) {
        if (missing !== null && operands.some(({ get }) => get(row) === null))
          return asType(missing, called.type) ?? missing;
        const value = called.get(row);
        return value === null && otherwise !== null ? (asType(otherwise, called.type) ?? otherwise) : value;
      },
    };
  },
};

const SEPARATOR = '\u0000';
const keyOf = (value: Value) => (value === null ? '' : `${typeof value}:${String(value)}`);

/** A function that the file defines: its body with the operands as fields. */
function callOf(own: Element, operands: readonly Expression[], call: Element, scope: Scope): Expression {
  const name = needed(own, 'name');
  const { shared } = scope;
  if (shared.calling.has(name)) throw refused(`The function “${name}” calls itself.`, own.line);
  const parameters = childrenOf(own, 'ParameterField');
  if (parameters.length !== operands.length)
    throw refused(`“${name}” takes ${parameters.length} values and is given ${operands.length}.`, call.line);
  const body = own.children.find((child) => child.name !== 'ParameterField');
  if (!body) throw refused(`The function “${name}” has no expression.`, own.line);
  const inner = new Scope(shared);
  parameters.forEach((parameter, i) => {
    const field = needed(parameter, 'name');
    const operand = at(operands, i);
    const type = typeOf(parameter, operand.type);
    inner.define(field, {
      name: field,
      type,
      get: (row) => asType(operand.get(row), type),
    });
  });
  shared.calling.add(name);
  const compiled = compileExpression(body, inner);
  shared.calling.delete(name);
  const type = typeOf(own, compiled.type);
  return { type, get: (row) => asType(compiled.get(row), type) };
}

/** The piecewise linear map of the <LinearNorm>s of an element, in the order of their `orig`. */
function linearNorm(element: Element): (value: number) => number | null {
  const outliers = oneOf(element, 'outliers', ['asIs', 'asMissingValues', 'asExtremeValues'], 'asIs');
  const points = childrenOf(element, 'LinearNorm').map((point) => ({
    from: numberOf(point, 'orig'),
    to: numberOf(point, 'norm'),
  }));
  const [first] = points;
  const last = points.at(-1);
  if (!first || !last || points.length < 2)
    throw refused(`<${element.name}> has fewer than two <LinearNorm>.`, element.line);
  if (points.some((point, i) => i > 0 && point.from <= at(points, i - 1).from))
    throw refused(`<${element.name}> has <LinearNorm> that are not in ascending order.`, element.line);
  return (value) => {
    if (value < first.from || value > last.from) {
      if (outliers === 'asMissingValues') return null;
      if (outliers === 'asExtremeValues') return value < first.from ? first.to : last.to;
    }
    let i = 1;
    while (i < points.length - 1 && value > at(points, i).from) i++;
    const [a, b] = [at(points, i - 1), at(points, i)];
    return a.to + ((value - a.from) / (b.from - a.from)) * (b.to - a.to);
  };
}

/** The inverse of `linearNorm`, for outputs of networks that were trained on a scaled target. */
export function inverseNorm(element: Element): (value: number) => number {
  const points = childrenOf(element, 'LinearNorm')
    .map((point) => ({ from: numberOf(point, 'norm'), to: numberOf(point, 'orig') }))
    .sort((a, b) => a.from - b.from);
  if (points.length < 2 || at(points, 0).from === at(points, points.length - 1).from)
    throw refused(`<${element.name}> has no two <LinearNorm> that differ.`, element.line);
  return (value) => {
    let i = 1;
    while (i < points.length - 1 && value > at(points, i).from) i++;
    const [a, b] = [at(points, i - 1), at(points, i)];
    return a.to + ((value - a.from) / (b.from - a.from)) * (b.to - a.to);
  };
}
