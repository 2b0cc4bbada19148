import { SieveError } from '../foundation/errors.js';
import { shortNumber } from '../foundation/numbers.js';
import type { PlanValue } from '../data/sentence/parameter.js';
import { shownParameters, type Plan } from '../data/sentence/sentence.js';
import { modelFamilyOf, modelOf } from './registry.js';

/**
 * A model of a family with settings as they are typed: `depth=4`. A penalty without units is on the target's own scale.
 *
 * @param field what the settings were typed into, for errors
 * @throws SieveError `plan-kind`, `plan-value`
 */
export function modelFromSettings(name: string, settings: readonly string[], field: string): Plan {
  const fail = (message: string) => new SieveError('plan-value', message, { field });
  const kind = modelFamilyOf({ kind: name });
  const values: Record<string, PlanValue> = {};
  for (const setting of settings) {
    const [key = '', ...rest] = setting.split('=').map((one) => one.trim());
    const text = rest.join('=');
    const parameter = kind.parameters[key];
    if (rest.length === 0) throw fail(`A setting is key=value, not “${setting}”.`);
    if (!parameter) {
      const keys = Object.keys(kind.parameters);
      throw fail(`${name} has no setting “${key}”${keys.length > 0 ? `; it has ${keys.join(', ')}` : ''}.`);
    }
    if (parameter.type !== 'number') values[key] = text;
    else {
      const value = Number(text);
      if (text === '' || Number.isNaN(value)) throw fail(`${key} is a number, not “${text}”.`);
      values[key] = value;
    }
  }
  const isOnOwnScale = kind.parameters['units'] && 'penalty' in values && !('units' in values);
  return modelOf(name, isOnOwnScale ? { ...values, units: 'as-is' } : values);
}

/** "decision tree (depth 4, …)": a model with the settings that are numbers or choices, for the student's sheet. */
export function modelWords(model: Plan): string {
  const kind = modelFamilyOf(model);
  const shown = shownParameters(kind, model);
  const words = Object.entries(kind.parameters).flatMap(([key, parameter]) => {
    const value = model.values[key];
    if (!shown.includes(key)) return [];
    if (parameter.type === 'number' && typeof value === 'number')
      return [`${parameter.label} ${shortNumber(value, 6)}`];
    if (parameter.type === 'choice')
      return [parameter.choices.find((one) => one.value === value)?.text ?? String(value)];
    return [];
  });
  return `${kind.title}${words.length > 0 ? ` (${words.join(', ')})` : ''}`;
}
