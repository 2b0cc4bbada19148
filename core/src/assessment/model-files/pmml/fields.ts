import { compileExpression } from './expressions.js';
import { intervalOf } from './interval.js';
import {
  asType,
  constantFor,
  type Field,
  type FieldType,
  type Get,
  type Row,
  type Value,
  typeOf,
} from './row.js';
import { Scope, type Shared } from './scope.js';
import { childOf, childrenOf, type Element, needed, numberOf, oneOf, refused } from './xml.js';

/** A value that the data dictionary does not allow. */
const INVALID = Symbol('invalid');

/** A field of the data dictionary. */
export interface DataField {
  readonly name: string;
  readonly type: FieldType;
  /** Valid values in the order of the file; empty where any is. */
  readonly values: readonly string[];
  /** The value of a cell, or that it is invalid. */
  readonly check: (value: Value) => Value | typeof INVALID;
}

/** The fields of a data dictionary by name. */
export function dataFields(dictionary: Element): Map<string, DataField> {
  const fields = new Map<string, DataField>();
  for (const element of childrenOf(dictionary, 'DataField')) {
    const name = needed(element, 'name');
    if (fields.has(name)) throw refused(`The field “${name}” is declared twice.`, element.line);
    fields.set(name, dataField(name, element));
  }
  return fields;
}

function dataField(name: string, element: Element): DataField {
  const optype = oneOf(element, 'optype', ['categorical', 'ordinal', 'continuous'], 'continuous');
  const type = typeOf(element, optype === 'continuous' ? 'number' : 'string');
  const listed = (property: string) =>
    childrenOf(element, 'Value')
      .filter((value) => (value.attributes['property'] ?? 'valid') === property)
      .map((value) => needed(value, 'value'));
  const values = listed('valid');
  const valid = new Set(values.map((text) => constantFor(text, type, element)));
  const invalid = new Set(listed('invalid').map((text) => asType(text, type)));
  const missing = new Set<Value>(listed('missing'));
  for (const value of [...missing]) missing.add(asType(value, type));
  const intervals = childrenOf(element, 'Interval').map(intervalOf);
  return {
    name,
    type,
    values,
    check(cell) {
      if (cell === null || missing.has(cell)) return null;
      const value = asType(cell, type);
      if (value === null || invalid.has(value)) return INVALID;
      if (missing.has(value)) return null;
      if (intervals.length > 0 && typeof value === 'number' && !intervals.some((lies) => lies(value)))
        return valid.has(value) ? value : INVALID;
      if (valid.size > 0 && intervals.length === 0 && !valid.has(value)) return INVALID;
      return value;
    },
  };
}

/** The columns of the data dictionary as fields: each becomes an input when it is first referred to. */
export function inputScope(shared: Shared, fields: ReadonlyMap<string, DataField>): Scope {
  const scope = new Scope(shared);
  for (const [name, { type, values }] of fields)
    scope.define(name, () => {
      const place = shared.inputs.length;
      shared.inputs.push({ name, type, values: values.length > 0 ? values : null });
      return {
        name,
        type,
        get: (row) => row.inputs[place] ?? null,
      };
    });
  return scope;
}

/** What the outermost model of a file has around it. */
export interface Around {
  readonly fields: ReadonlyMap<string, DataField>;
  /** Derived fields that all models share; they see the values as the model's schema treats them. */
  readonly dictionary: Element | null;
}

/** A mining schema as read: the scope that it opens, and the name of its target. */
export interface MiningFields {
  readonly scope: Scope;
  readonly target: string | null;
}

/**
 * The fields that a model takes from what is around it, with its treatment of missing, invalid and outlying values, and
 * its own transformations.
 *
 * @param around what only the outermost model has to do with; null for a model within another, whose values have been
 *   checked
 */
export function miningFields(model: Element, outer: Scope, around: Around | null): MiningFields {
  const scope = new Scope(outer.shared, outer);
  const schema = childOf(model, 'MiningSchema');
  let target: string | null = null;
  for (const element of schema ? childrenOf(schema, 'MiningField') : []) {
    const name = needed(element, 'name');
    const usage = element.attributes['usageType'] ?? 'active';
    if (usage === 'target' || usage === 'predicted') target ??= name;
    if (usage !== 'active') continue;
    scope.define(name, () =>
      treated(outer.need(name, element), element, around?.fields.get(name) ?? null, scope),
    );
  }
  if (around?.dictionary) defineDerived(around.dictionary, scope);
  const local = childOf(model, 'LocalTransformations');
  if (local) defineDerived(local, scope);
  return { scope, target };
}

function treated(field: Field, element: Element, data: DataField | null, scope: Scope): Field {
  const { name, type } = field;
  const constant = (attribute: string): Value => {
    const text = element.attributes[attribute];
    return text === undefined ? null : constantFor(text, type, element);
  };
  const missing = constant('missingValueReplacement');
  const invalid = constant('invalidValueReplacement') ?? constant('x-invalidValueReplacement');
  const onInvalid = oneOf(
    element,
    'invalidValueTreatment',
    ['returnInvalid', 'asIs', 'asMissing', 'asValue'],
    'returnInvalid',
  );
  const outliers = oneOf(element, 'outliers', ['asIs', 'asMissingValues', 'asExtremeValues'], 'asIs');
  const low = numberOf(element, 'lowValue', -Infinity);
  const high = numberOf(element, 'highValue', Infinity);
  const isPlain = !data && missing === null && outliers === 'asIs';
  if (isPlain) return field;
  const get = (row: Row): Value => {
    const cell = field.get(row);
    let value: Value;
    const checked = data ? data.check(cell) : cell;
    if (checked === INVALID) {
      if (onInvalid === 'returnInvalid') {
        row.problem ??= `“${String(cell)}” is no value of ${name} that the model declares`;
        return null;
      }
      value =
        onInvalid === 'asMissing' ? null : onInvalid === 'asValue' ? invalid : (asType(cell, type) ?? cell);
    } else value = checked;
    if (typeof value === 'number' && outliers !== 'asIs' && (value < low || value > high))
      value = outliers === 'asMissingValues' ? null : Math.min(high, Math.max(low, value));
    return value ?? missing;
  };
  return { ...field, get: scope.shared.once(get) };
}

/** Takes the <DerivedField>s of a dictionary into a scope. */
function defineDerived(dictionary: Element, scope: Scope): void {
  for (const element of childrenOf(dictionary, 'DerivedField')) {
    const name = needed(element, 'name');
    scope.define(name, () => derivedField(name, element, scope));
  }
}

/** A field that an expression gives. */
export function derivedField(name: string, element: Element, scope: Scope): Field {
  const isContinuous = (element.attributes['optype'] ?? 'continuous') === 'continuous';
  const type = typeOf(element, isContinuous ? 'number' : 'string');
  const body = element.children.find((child) => child.name !== 'Value' && child.name !== 'Interval');
  if (!body) throw refused(`The derived field “${name}” has no expression.`, element.line);
  const expression = compileExpression(body, scope);
  const get: Get = (row) => asType(expression.get(row), type);
  return { name, type, get: scope.shared.once(get) };
}
