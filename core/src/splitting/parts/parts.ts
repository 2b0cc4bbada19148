import { SieveError } from '../../foundation/errors.js';
import { at, count, counted } from '../../foundation/numbers.js';

/** A part of a split: a share of the rows, a number of rows, or all rows that the others leave. */
export type PartSize = { readonly name: string } & (
  { readonly share: number } | { readonly rows: number } | { readonly rest: true }
);

/** Parts that a split may have; more would be folds. */
const MOST_PARTS = 100;
const NAME = /^[\p{L}\p{N}][\p{L}\p{N} _.-]{0,63}$/u;

const fail = (message: string): SieveError => new SieveError('split-parts', message, { field: 'parts' });

/**
 * Reads "train=0.8,heldout=0.2", "train=800,heldout=rest" and the like. Numbers up to 1 are shares if all are;
 * otherwise all are numbers of rows.
 *
 * @throws SieveError `split-parts`
 */
export function parseParts(text: string): PartSize[] {
  const given = text.split(',').map((part) => {
    const [name = '', size = '', ...more] = part.split('=').map((piece) => piece.trim());
    if (more.length > 0 || name === '' || size === '')
      throw fail(`“${part}” is no part: it is a name, =, and a share, a number of rows, or “rest”.`);
    return { name, size };
  });
  const numbers = given.filter(({ size }) => size !== 'rest').map(({ size }) => Number(size));
  const shares = numbers.every((n) => n <= 1);
  const parts = given.map(({ name, size }): PartSize => {
    if (size === 'rest') return { name, rest: true };
    const n = Number(size);
    if (!Number.isFinite(n) || n < 0) throw fail(`“${size}” is no share and no number of rows.`);
    return shares ? { name, share: n } : { name, rows: n };
  });
  checkParts(parts);
  return parts;
}

/** @throws SieveError `split-parts` where names or sizes cannot be meant */
export function checkParts(parts: readonly PartSize[]): void {
  if (parts.length < 2) throw fail('A split has at least two parts.');
  if (parts.length > MOST_PARTS) throw fail(`A split has at most ${MOST_PARTS} parts; use folds for more.`);
  const names = new Set<string>();
  for (const { name } of parts) {
    if (!NAME.test(name))
      throw fail(`“${name}” cannot name a part: letters, digits, spaces, points, hyphens, up to 64 of them.`);
    if (names.has(name)) throw fail(`Two parts are called “${name}”.`);
    names.add(name);
  }
  const rest = parts.filter((part) => 'rest' in part);
  if (rest.length > 1) throw fail('Only one part can take the rest.');
  const shares = parts.filter((part) => 'share' in part);
  if (shares.length > 0 && parts.some((part) => 'rows' in part))
    throw fail('Parts are sized by shares or by numbers of rows, not some by one and some by the other.');
  for (const part of parts) {
    if ('rows' in part && !(Number.isInteger(part.rows) && part.rows >= 0))
      throw fail(`${part.name}: ${part.rows} is no whole number of rows.`);
    if ('share' in part && !(part.share >= 0 && part.share <= 1))
      throw fail(`${part.name}: a share lies between 0 and 1.`);
  }
  const total = shares.reduce((sum, part) => sum + part.share, 0);
  if (shares.length === parts.length && Math.abs(total - 1) > 1e-9)
    throw fail(`The shares make ${Number(total.toPrecision(12))}, not 1.`);
  if (rest.length === 1 && total > 1 + 1e-9)
    throw fail(`The shares make ${Number(total.toPrecision(12))}, more than 1.`);
}

/**
 * What each part is due of n rows, as weights; numbers of rows are met exactly.
 *
 * @throws SieveError `split-parts` where the numbers of rows are more, or fewer, than there are
 */
export function weightsOf(parts: readonly PartSize[], n: number): number[] {
  checkParts(parts);
  const isCounted = parts.some((part) => 'rows' in part);
  const taken = parts.reduce(
    (sum, part) => sum + ('rows' in part ? part.rows : 'share' in part ? part.share : 0),
    0,
  );
  const all = isCounted ? n : 1;
  if (isCounted && taken > n) throw fail(`The parts take ${count(taken)} rows, and there are ${count(n)}.`);
  if (isCounted && taken < n && !parts.some((part) => 'rest' in part))
    throw fail(`The parts take ${count(taken)} of ${counted(n, 'row')}; size one of them “rest”.`);
  const weights = parts.map((part) =>
    'rest' in part ? Math.max(0, all - taken) : 'rows' in part ? part.rows : part.share,
  );
  // Whole percentages are weighed as such, so that no rounding of a double decides who gets the last row.
  const percent = weights.map((weight) => Math.round(weight * 100));
  const whole = !isCounted && percent.every((p, i) => Math.abs(p / 100 - at(weights, i)) < 1e-9);
  return whole ? percent : weights;
}

/** The shares of the parts where all have one. */
export function sharesOf(parts: readonly PartSize[], method: string): number[] {
  if (parts.some((part) => 'rows' in part))
    throw fail(
      `Parts of a split ${method} are sized by shares: how many rows a part gets cannot be said beforehand.`,
    );
  return weightsOf(parts, 0);
}

/** The rows of one part, ascending. */
export function rowsOfPart(parts: Int8Array, part: number): Int32Array {
  let n = 0;
  for (let row = 0; row < parts.length; row++) if (parts[row] === part) n++;
  const rows = new Int32Array(n);
  for (let row = 0, i = 0; row < parts.length; row++) if (parts[row] === part) rows[i++] = row;
  return rows;
}
