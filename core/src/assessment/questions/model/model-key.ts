import { SieveError } from '../../../foundation/errors.js';
import { answersTo } from '../../material/answers.js';
import type { Material } from '../../material/material.js';
import type { ModelKey } from './question.js';

/** What is true of the training rows, all of which are judged. */
export function answersOn(material: Material, rows: Int32Array): ModelKey['training']['answers'] {
  return { ...answersTo(material, rows), groups: null, feedback: new Uint8Array(rows.length) };
}

/** The commonest class of some rows, by its code, or their mean. */
export function commonest(material: Material, rows: Int32Array): number {
  const { classes, values, labels } = answersTo(material, rows);
  if (values) return values.reduce((a, b) => a + b, 0) / values.length;
  const counts = labels.map(() => 0);
  classes?.forEach((code) => (counts[code] = (counts[code] ?? 0) + 1));
  return counts.indexOf(Math.max(...counts));
}

/** Coefficients of the first reference run that has some. @throws SieveError `no-reference` */
export function referenceCoefficients({ references }: Material): NonNullable<ModelKey['coefficients']> {
  for (const { description } of references) {
    const known = (description.coefficients ?? []).flatMap(({ term, label, estimate, se }) =>
      label === null && estimate !== null ? [{ term, estimate, se }] : [],
    );
    if (known.length > 0) return known;
  }
  throw new SieveError('no-reference', 'No reference run of the split has coefficients to compare with.', {
    field: 'coefficients',
  });
}
