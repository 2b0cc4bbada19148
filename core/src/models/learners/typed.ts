import { SieveError } from '../../foundation/errors.js';
import type { PlanValue } from '../../data/sentence/parameter.js';
import { newPlan, type Plan } from '../../data/sentence/sentence.js';
import type { ModelFamily } from '../contract/family.js';

/**
 * A model of a family with settings as they are typed: `depth=4`. A penalty without units is on the target's own scale.
 *
 * @param field what the settings were typed into, for errors
 * @throws SieveError `plan-value`
 */
export function typedModel(kind: ModelFamily, settings: readonly string[], field: string): Plan {
  const fail = (message: string) => new SieveError('plan-value', message, { field });
  const values: Record<string, PlanValue> = {};
  for (const setting of settings) {
    const [key = '', ...rest] = setting.split('=').map((one) => one.trim());
    const text = rest.join('=');
    const parameter = kind.parameters[key];
    if (rest.length === 0) throw fail(`A setting is key=value, not “${setting}”.`);
    if (!parameter) {
      const keys = Object.keys(kind.parameters);
      throw fail(
        `${kind.key} has no setting “${key}”${keys.length > 0 ? `; it has ${keys.join(', ')}` : ''}.`,
      );
    }
    if (parameter.type === 'texts') values[key] = text.split(';').map((one) => one.trim());
    else if (parameter.type !== 'number') values[key] = text;
    else {
      const value = Number(text);
      if (text === '' || Number.isNaN(value)) throw fail(`${key} is a number, not “${text}”.`);
      values[key] = value;
    }
  }
  const isOnOwnScale = kind.parameters['units'] && 'penalty' in values && !('units' in values);
  const begun = newPlan(kind, []);
  return { ...begun, values: { ...begun.values, ...values, ...(isOnOwnScale ? { units: 'as-is' } : {}) } };
}

/** A model in one line, as the command line would have it: its family and the settings that it does not begin with. */
export function modelLine(kind: ModelFamily, { values }: Plan): string {
  const begun = newPlan(kind, []).values;
  const isPenalised = kind.parameters['units'] !== undefined;
  const settings = Object.keys(kind.parameters).flatMap((key) => {
    const value = values[key];
    if (value === undefined || Array.isArray(value)) return [];
    // A penalty that is typed without units would be taken on the target's own scale.
    const isSaid = value !== begun[key] || (isPenalised && (key === 'units' || key === 'penalty'));
    return isSaid && value !== '' ? [`${key}=${String(value)}`] : [];
  });
  return [kind.key, ...settings].join(' ');
}
