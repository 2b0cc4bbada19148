import { shortNumber } from '../foundation/numbers.js';
import { shownParameters, type Plan } from '../data/sentence/sentence.js';
import { typedModel } from './learners/typed.js';
import { modelFamilyOf } from './registry.js';

/**
 * A model of a family with settings as they are typed: `depth=4`. A penalty without units is on the target's own scale.
 *
 * @param field what the settings were typed into, for errors
 * @throws SieveError `plan-kind`, `plan-value`
 */
export function modelFromSettings(name: string, settings: readonly string[], field: string): Plan {
  return typedModel(modelFamilyOf({ kind: name }), settings, field);
}

/** "decision tree (depth 4, …)": a model with its settings, for the student's sheet. */
export function modelWords(model: Plan): string {
  const kind = modelFamilyOf(model);
  const shown = shownParameters(kind, model);
  const words = Object.entries(kind.parameters).flatMap(([key, parameter]) => {
    const value = model.values[key];
    if (!shown.includes(key)) return [];
    if (parameter.type === 'number' && typeof value === 'number')
      return [`${parameter.label} ${shortNumber(value, 6)}`];
    if (parameter.type === 'text' && value !== '') return [`${parameter.label} ${String(value)}`];
    if (parameter.type === 'texts' && Array.isArray(value)) return [value.join(' + ')];
    if (parameter.type === 'choice')
      return [parameter.choices.find((one) => one.value === value)?.text ?? String(value)];
    return [];
  });
  return `${kind.title}${words.length > 0 ? ` (${words.join(', ')})` : ''}`;
}
