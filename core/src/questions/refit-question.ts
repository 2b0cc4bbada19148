import { SieveError } from '../errors.js';
import { MODEL_KINDS, checkModel, modelKindOf } from '../models/registry.js';
import { modelFromSettings } from '../models/settings.js';
import { shortNumber } from '../numbers.js';
import type { ChoiceParameter, TextParameter } from '../sentence/parameter.js';
import { shownParameters, type Planned } from '../sentence/sentence.js';
import type { Subject } from './kind.js';

/** Where students may use whichever model they like. */
export const ANY = 'any';

/** Families that learn from features. */
const FAMILIES = MODEL_KINDS.filter(
  ({ key }) => !['most-frequent', 'class-shares', 'mean', 'median'].includes(key),
);

/** The model that a question asks for. */
export const REFIT_PARAMETERS = {
  family: {
    type: 'choice',
    label: 'model',
    choices: [
      { value: ANY, text: 'any model' },
      ...FAMILIES.map(({ key, title }) => ({ value: key, text: title })),
    ],
  },
  settings: { type: 'text', label: 'settings of the model', none: 'default settings', start: '' },
} as const satisfies Record<string, ChoiceParameter | TextParameter>;

interface Asked {
  readonly family: string;
  /** `depth=4, rows_per_leaf=5`; empty for those that the family begins with. */
  readonly settings: string;
}

/**
 * The model that is asked for; null where any may be used.
 *
 * @throws SieveError `plan-kind`, `plan-value` with its field
 */
export function refitOf(
  { family, settings }: Asked,
  subject: Pick<Subject, 'roles'> & Partial<Pick<Subject, 'columns'>>,
): Planned | null {
  if (family === ANY) return null;
  const given = settings.split(',').flatMap((one) => (one.trim() === '' ? [] : [one.trim()]));
  const model = modelFromSettings(family, given, 'settings');
  try {
    checkModel(model, subject.roles.task, subject.columns ?? []);
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    throw new SieveError(error.code, error.message, { field: 'family' });
  }
  return model;
}

/** "decision tree (depth 4, …)": a model with the settings that are numbers or choices, for the student's sheet. */
export function refitWords(model: Planned): string {
  const kind = modelKindOf(model);
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
  return `${kind.title}${words.length > 0 ? ` (${words.join(', ')})` : ''} on all features`;
}
