import { SieveError } from '../../../foundation/errors.js';
import { at, count, indices } from '../../../foundation/numbers.js';
import { keyedRandom } from '../../../foundation/random/secret.js';
import { takeRows } from '../../../data/table/table.js';
import type { Generator, GeneratedItem, GeneratorMaterial } from '../../generators/generator.js';
import type { Respondent } from '../../generators/respondent.js';

/** Parts of the training rows of which each student gets one, at most. */
const MOST_SAMPLES = 20;
/** Fewest rows of a part. */
const FEWEST_ROWS = 10;

/**
 * The part of a student, from 0: the training rows whose number in `training.csv`, from 0, leaves it as remainder when
 * divided by the number of parts. Any program can take these rows.
 */
const sampleOf = ({ secret, question, id: person }: Respondent, parts: number): number =>
  keyedRandom(secret, { what: 'sample', question, person }).below(parts);

/** @throws SieveError `plan-value` for a number of parts that cannot be, or a kind whose rows are no training rows */
export function checkSamples(
  parts: number | undefined,
  kind: Generator,
  values: Readonly<Record<string, unknown>>,
): void {
  if (parts === undefined) return;
  const fail = (message: string) => new SieveError('plan-value', message, { field: 'samples' });
  if (kind.from !== 'data' || kind.of === 'elsewhere')
    throw fail('Only what is computed from the training rows can be computed from parts of them.');
  if (!Number.isInteger(parts) || parts < 2 || parts > MOST_SAMPLES)
    throw fail(`Parts are a whole number from 2 to ${MOST_SAMPLES}.`);
  if (values['rows'] !== undefined && values['rows'] !== 'training')
    throw fail('Parts are of the training rows: choose these rows.');
}

/**
 * What is computed from each part.
 *
 * @throws SieveError `no-figure` with the number of the part, and as the kind throws it
 */
export function computeSamples(
  compute: (material: GeneratorMaterial) => GeneratedItem,
  material: GeneratorMaterial,
  parts: number,
): GeneratedItem[] {
  return Array.from({ length: parts }, (_, part) => {
    const rows = indices(material.table.rowCount).filter((row) => row % parts === part);
    if (rows.length < FEWEST_ROWS)
      throw new SieveError(
        'no-figure',
        `${count(material.table.rowCount)} training rows make no ${parts} parts of ${FEWEST_ROWS} rows or more.`,
        { field: 'samples' },
      );
    const columns = material.table.columns.map((column) => takeRows(column, rows));
    const table = { rowCount: rows.length, columns };
    try {
      const item = compute({ ...material, table, validation: null, all: table });
      return {
        ...item,
        given: { ...item.given, part: String(part), parts: String(parts), n_part: count(rows.length) },
      };
    } catch (error) {
      if (!(error instanceof SieveError)) throw error;
      throw new SieveError(error.code, `Of part ${part} of ${parts}: ${error.message}`, error.place);
    }
  });
}

/** What a student reads of the rows to take. */
export const sampleWords = (item: Pick<GeneratedItem, 'given'>): string =>
  `Compute from your own part of the training rows: those whose number in \`training.csv\`, counted from 0, leaves the remainder **${item.given['part']}** when divided by ${item.given['parts']} (${item.given['n_part']} rows). Take them as the whole file, in their order.`;

/** The item of a student. */
export const ownSample = <T>(samples: readonly T[], who: Respondent): T =>
  at(samples, sampleOf(who, samples.length));
