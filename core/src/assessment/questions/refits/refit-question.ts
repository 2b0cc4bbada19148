import { SieveError } from '../../../foundation/errors.js';
import { checkModel } from '../../../models/registry.js';
import { modelFromSettings } from '../../../models/settings.js';
import type { ChoiceParameter, TextParameter } from '../../../data/sentence/parameter.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import { COMPARED_FAMILIES } from '../../generators/compared-families.js';
import type { Subject } from '../contract/kind.js';

/** Where students may use whichever model they like. */
export const ANY = 'any';

/** The model that a question asks for. */
export const REFIT_PARAMETERS = {
  family: {
    type: 'choice',
    label: 'model',
    choices: [
      { value: ANY, text: 'any model' },
      ...COMPARED_FAMILIES.map(({ key, title }) => ({ value: key, text: title })),
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
): Plan | null {
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
