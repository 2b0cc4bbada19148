import { compileExpression } from './expressions.js';
import type { Score, Scorer } from './model.js';
import { asType, type Row, typeOf, type Value } from './row.js';
import { Scope } from './scope.js';
import { childOf, childrenOf, type Element, needed, unsupported } from './xml.js';

/** Fields that a model within another fills for the models after it. */
export interface Outputs {
  readonly set: (row: Row, score: Score) => void;
}

const FEATURES = ['predictedValue', 'predictedDisplayValue', 'probability', 'transformedValue', 'decision'];

/** Takes the <OutputField>s of a model into a scope. What cannot be used further is passed over until it is referred to. */
export function declareOutputs(model: Element, scorer: Scorer, scope: Scope): Outputs {
  const output = childOf(model, 'Output');
  const { shared } = scope;
  const inner = new Scope(shared, scope);
  const sets: ((row: Row, score: Score) => void)[] = [];
  for (const element of output ? childrenOf(output, 'OutputField') : []) {
    const name = needed(element, 'name');
    const feature = element.attributes['feature'] ?? 'predictedValue';
    const type = typeOf(
      element,
      scorer.isClassification && feature === 'predictedValue' ? 'string' : 'number',
    );
    const { field, set } = shared.settable(name, type);
    const isKnown = FEATURES.includes(feature);
    const known = isKnown
      ? field
      : () => {
          throw unsupported(element, `feature="${feature}"`);
        };
    scope.define(name, known);
    inner.define(name, known);
    if (!isKnown) continue;
    const value = valueOf(element, feature, scorer, inner);
    sets.push((row, score) => set(row, asType(value(row, score), type)));
  }
  return { set: (row, score) => sets.forEach((set) => set(row, score)) };
}

function valueOf(
  element: Element,
  feature: string,
  { classes }: Scorer,
  scope: Scope,
): (row: Row, score: Score) => Value {
  if (feature === 'probability') {
    const label = element.attributes['value'];
    return (_, { value, shares }) => {
      const place = classes?.labels.indexOf(label ?? String(value)) ?? -1;
      return shares?.[place] ?? null;
    };
  }
  if (feature === 'transformedValue' || feature === 'decision') {
    const [body] = element.children;
    if (!body) throw unsupported(element, 'no expression');
    const { get } = compileExpression(body, scope);
    return (row) => get(row);
  }
  return (_, { value }) => value;
}
