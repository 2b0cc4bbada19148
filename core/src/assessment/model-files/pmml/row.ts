import { refused, unsupported, type Element } from './xml.js';

/** A value of a field; null where it is missing. */
export type Value = number | string | boolean | null;

/** What a row is while it is scored: what its columns say, and what has been derived from them. */
export interface Row {
  /** By place of the input. */
  readonly inputs: Value[];
  /** By slot: values that are computed once for each row. */
  readonly memo: Value[];
  /** By slot: the number of the row of which the value is. */
  readonly stamps: Int32Array;
  /** Number of the row, from 1. */
  stamp: number;
  /** Why the row cannot be predicted, where a value of it is invalid. */
  problem: string | null;
}

export type Get = (row: Row) => Value;

/** How values of a field are compared; `float` rounds to 32 bits, as programs that write such models do. */
export type FieldType = 'string' | 'number' | 'float' | 'boolean';

/** A field that expressions, predicates and models may refer to. */
export interface Field {
  readonly name: string;
  readonly type: FieldType;
  readonly get: Get;
}

const TYPES: Readonly<Record<string, FieldType>> = {
  string: 'string',
  integer: 'number',
  double: 'number',
  float: 'float',
  boolean: 'boolean',
};

/** The type of an element with `dataType`. @throws SieveError `model-file` for dates and times */
export function typeOf(element: Element, otherwise: FieldType): FieldType {
  const text = element.attributes['dataType'];
  if (text === undefined) return otherwise;
  const type = TYPES[text];
  if (!type) throw unsupported(element, `dataType="${text}"`);
  return type;
}

/** A value as one of a type; null where it is none. */
export function asType(value: Value, type: FieldType): Value {
  if (value === null) return null;
  if (type === 'string') return String(value);
  if (type === 'boolean') {
    if (typeof value === 'boolean') return value;
    const text = String(value).toLowerCase();
    return text === 'true' || text === '1' ? true : text === 'false' || text === '0' ? false : null;
  }
  const number = typeof value === 'number' ? value : numberFrom(value);
  if (number === null) return null;
  return type === 'float' ? Math.fround(number) : number;
}

/** The number that a text or truth value is; null where it is none. */
export function numberFrom(value: Value): number | null {
  if (value === null) return null;
  if (typeof value === 'number') return value;
  if (typeof value === 'boolean') return value ? 1 : 0;
  const number = value.trim() === '' ? NaN : Number(value);
  return Number.isNaN(number) ? null : number;
}

/** A constant of a file as a value of a field. @throws SieveError `model-file` where it is none */
export function constantFor(text: string, type: FieldType, element: Element): Value {
  const value = asType(text, type);
  if (value === null)
    throw refused(
      `<${element.name}> has the value “${text}”, which is no ${type === 'boolean' ? 'truth value' : 'number'}.`,
      element.line,
    );
  return value;
}
