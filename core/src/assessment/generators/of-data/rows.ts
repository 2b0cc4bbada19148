import { SieveError } from '../../../foundation/errors.js';
import { count } from '../../../foundation/numbers.js';
import type { Figure } from '../../../metrics/metric.js';
import type { ChoiceParameter } from '../../../data/sentence/parameter.js';
import type { Table } from '../../../data/table/table.js';
import type { GeneratorMaterial } from '../generator.js';

export type GivenRows = 'training' | 'validation' | 'both';

const TEXTS: Readonly<Record<GivenRows, string>> = {
  training: 'the training rows',
  validation: 'the validation rows',
  both: 'the training and validation rows',
};

/** The rows that something is computed on: all of them are in the files that students have. */
export const ROWS = {
  type: 'choice',
  label: 'rows',
  choices: [
    { value: 'training', text: TEXTS.training },
    { value: 'validation', text: TEXTS.validation },
    { value: 'both', text: TEXTS.both },
  ],
  // Plans of earlier versions have none.
  optional: true,
} as const satisfies ChoiceParameter<GivenRows>;

/**
 * Those rows, in the order of the files.
 *
 * @throws SieveError `no-figure` where the split has no validation rows
 */
export function chosenRows(material: GeneratorMaterial, rows: GivenRows | undefined): Table {
  if (rows === undefined || rows === 'training') return material.table;
  const table = rows === 'both' ? material.all : material.validation;
  if (!table || !material.validation)
    throw new SieveError('no-figure', 'The split has no validation rows.', { field: 'rows' });
  return table;
}

/** What a text may say of them. */
export const givenOf = (table: Table, rows: GivenRows | undefined): Record<string, string> => ({
  rows: TEXTS[rows ?? 'training'],
  n: count(table.rowCount),
});

/** A share of rows. */
export const shareOf = (part: number, all: number): Figure =>
  all > 0 ? { value: part / all } : { value: null, reason: 'there are no such rows' };
