import { at } from '../../../foundation/numbers.js';
import { asType, constantFor, type Row, type Value } from './row.js';
import type { Scope } from './scope.js';
import { entriesOf, type Element, needed, neededChild, oneOf, unsupported } from './xml.js';

/** Whether a predicate holds for a row; null where that is unknown because a value is missing. */
export type Predicate = (row: Row) => boolean | null;

const NAMES = ['True', 'False', 'SimplePredicate', 'SimpleSetPredicate', 'CompoundPredicate'];

/** The predicate of a node or segment; one without is refused. @throws SieveError `model-file` */
export function predicateIn(element: Element, scope: Scope): Predicate {
  const found = element.children.find(({ name }) => NAMES.includes(name));
  return compilePredicate(found ?? neededChild(element, 'SimplePredicate'), scope);
}

const isPredicate = ({ name }: Element): boolean => NAMES.includes(name);

function compilePredicate(element: Element, scope: Scope): Predicate {
  switch (element.name) {
    case 'True':
      return () => true;
    case 'False':
      return () => false;
    case 'SimplePredicate':
      return simple(element, scope);
    case 'SimpleSetPredicate':
      return inSet(element, scope);
    case 'CompoundPredicate':
      return compound(element, scope);
    default:
      throw unsupported(element);
  }
}

const OPERATORS = [
  'equal',
  'notEqual',
  'lessThan',
  'lessOrEqual',
  'greaterThan',
  'greaterOrEqual',
  'isMissing',
  'isNotMissing',
] as const;

function simple(element: Element, scope: Scope): Predicate {
  const { get, type } = scope.need(needed(element, 'field'), element);
  const operator = oneOf(element, 'operator', OPERATORS);
  if (operator === 'isMissing') return (row) => get(row) === null;
  if (operator === 'isNotMissing') return (row) => get(row) !== null;
  const constant = constantFor(needed(element, 'value'), type, element);
  const test = testOf(operator, constant as string | number | boolean);
  return (row) => {
    const value = get(row);
    return value === null ? null : test(value);
  };
}

function testOf(
  operator: Exclude<(typeof OPERATORS)[number], 'isMissing' | 'isNotMissing'>,
  constant: string | number | boolean,
): (value: string | number | boolean) => boolean {
  switch (operator) {
    case 'equal':
      return (value) => value === constant;
    case 'notEqual':
      return (value) => value !== constant;
    case 'lessThan':
      return (value) => value < constant;
    case 'lessOrEqual':
      return (value) => value <= constant;
    case 'greaterThan':
      return (value) => value > constant;
    case 'greaterOrEqual':
      return (value) => value >= constant;
  }
}

function inSet(element: Element, scope: Scope): Predicate {
  const { get, type } = scope.need(needed(element, 'field'), element);
  const wanted = oneOf(element, 'booleanOperator', ['isIn', 'isNotIn']) === 'isIn';
  const values = new Set<Value>(entriesOf(neededChild(element, 'Array')).map((text) => asType(text, type)));
  return (row) => {
    const value = get(row);
    return value === null ? null : values.has(value) === wanted;
  };
}

/** Three-valued logic: what decides does so beside unknown ones. A surrogate stands in for one that is unknown. */
function compound(element: Element, scope: Scope): Predicate {
  const operator = oneOf(element, 'booleanOperator', ['and', 'or', 'xor', 'surrogate']);
  const parts = element.children.filter(isPredicate).map((child) => compilePredicate(child, scope));
  if (parts.length === 0) throw unsupported(element, 'no predicate');
  switch (operator) {
    case 'and':
    case 'or': {
      const decides = operator === 'or';
      return (row) => {
        let isKnown = true;
        for (const part of parts) {
          const value = part(row);
          if (value === decides) return decides;
          if (value === null) isKnown = false;
        }
        return isKnown ? !decides : null;
      };
    }
    case 'xor':
      return (row) => {
        let odd = false;
        for (const part of parts) {
          const value = part(row);
          if (value === null) return null;
          if (value) odd = !odd;
        }
        return odd;
      };
    case 'surrogate':
      return (row) => {
        for (let i = 0; i < parts.length; i++) {
          const value = at(parts, i)(row);
          if (value !== null) return value;
        }
        return null;
      };
  }
}
