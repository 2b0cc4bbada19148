import { modelKindOf, modelOf, type Planned, type PlanValue } from '@modest-sieve/core';
import { usage } from '../command.js';

/** Settings that belong to `--model`, as `--set key=value` gives them. @throws SieveError `usage`, `plan-kind` */
export function modelFrom(name: string, given: readonly string[]): Planned {
  const kind = modelKindOf({ kind: name });
  const values: Record<string, PlanValue> = {};
  for (const setting of given) {
    const [key = '', ...rest] = setting.split('=');
    const text = rest.join('=');
    const parameter = kind.parameters[key];
    if (rest.length === 0) throw usage(`--set takes key=value, not “${setting}”.`, 'set');
    if (!parameter) {
      const keys = Object.keys(kind.parameters);
      throw usage(
        `${name} has no setting “${key}”${keys.length > 0 ? `; it has ${keys.join(', ')}` : ''}.`,
        'set',
      );
    }
    if (parameter.type !== 'number') values[key] = text;
    else {
      const value = Number(text);
      if (text.trim() === '' || Number.isNaN(value))
        throw usage(`--set ${key} is a number, not “${text}”.`, 'set');
      values[key] = value;
    }
  }
  const asIs = kind.parameters['units'] && 'penalty' in values && !('units' in values);
  return modelOf(name, asIs ? { ...values, units: 'as-is' } : values);
}
