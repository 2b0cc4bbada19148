import { SieveError } from '../../foundation/errors.js';
import { LARGEST_SEED } from '../../foundation/random/random.js';
import type { ValuesOf } from '../../data/sentence/parameter.js';
import { PART_NAMES, type PartName } from '../parts/part-names.js';
import type { PartSize } from '../parts/parts.js';

/** The share of a part in percent. */
export const share = (part: string, start: number, min: number) =>
  ({
    type: 'number',
    label: `share of ${part} rows in percent`,
    min,
    max: 99,
    step: 1,
    unit: '%',
    start,
  }) as const;
const rows = (part: string, start: number, min: number) =>
  ({ type: 'number', label: `number of ${part} rows`, min, step: 1, unit: 'rows', start }) as const;

/** Sizes of the parts: whole percentages that make 100, or numbers of rows of which training takes the rest. */
export const SIZES = {
  sized: {
    type: 'choice',
    label: 'how parts are sized',
    choices: [
      { value: 'percent', text: 'in percent' },
      { value: 'rows', text: 'in rows' },
    ],
  },
  training: share('training', 80, 1),
  validation: share('validation', 0, 0),
  heldout: share('held-out', 20, 1),
  validationRows: rows('validation', 0, 0),
  heldoutRows: rows('held-out', 100, 1),
} as const;
/** The same, in percent alone. */
export const SHARES = {
  training: SIZES.training,
  validation: SIZES.validation,
  heldout: SIZES.heldout,
} as const;

/** The sentence of sizes in percent. */
export const PERCENT = 'Keep {training} for training, {validation} for validation and hold {heldout} out';
/** The sentence of sizes. */
export const sizesSentence = ({ sized }: { readonly sized: 'percent' | 'rows' }): string =>
  sized === 'rows'
    ? 'Hold {heldoutRows} out, set {validationRows} aside for validation and keep all others for training, sized {sized}'
    : `${PERCENT}, sized {sized}`;

/** A value of a plan that cannot be. */
export const fail = (field: string, message: string) => new SieveError('plan-value', message, { field });

/** @throws SieveError `plan-value` where the shares do not make 100 % */
export function shares(values: ValuesOf<typeof SHARES>): PartSize[] {
  const total = values.training + values.validation + values.heldout;
  if (total !== 100) throw fail('training', `The shares make ${total} %, not 100 %.`);
  return PART_NAMES.map((name) => ({ name, share: values[name] / 100 }));
}

/** The sizes of the parts by the values of a sentence. */
export const sizes = (values: ValuesOf<typeof SIZES>): PartSize[] =>
  values.sized === 'percent'
    ? shares(values)
    : [
        { name: 'training', rest: true },
        { name: 'validation', rows: values.validationRows },
        { name: 'heldout', rows: values.heldoutRows },
      ];

export const seed = {
  type: 'number',
  label: 'seed',
  min: 0,
  max: LARGEST_SEED,
  step: 1,
  start: 2718,
} as const;

/** A plan of two parts, whose sizes follow from the method. */
export const TWO_PARTS = {
  names: ['training', 'heldout'] as readonly PartName[],
  sizes: [
    { name: 'training', rest: true },
    { name: 'heldout', share: 0 },
  ] as readonly PartSize[],
};
