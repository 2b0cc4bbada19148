import { at } from '../../foundation/numbers.js';
import { fnv1a } from '../../foundation/random/hash.js';
import { cellText, isCoded, type Column, type Table } from '../../data/table/table.js';

/** Fewer common columns than this cannot distinguish rows by content. */
const FEWEST_COLUMNS = 2;
/** Identifiers name the same rows where their cells agree this much more often than those of rows paired at random. */
const AGREEMENT = 0.25;
/** Pairs by identifier of which the cells are compared. */
const MOST_COMPARED = 2000;
/** Standard deviations by which matches must exceed those that chance gives. */
const STEPS = 5;

/** The rows of another table that are the same as those of a table. */
export interface MatchedRows {
  /** For each row of the first table the row of the other, or −1. */
  readonly rows: Int32Array;
  /** How the rows were recognised; null where none was. */
  readonly by: 'identifier' | 'content' | null;
}

interface MatchOptions {
  /** Column that names the rows in both tables; null where there is none. */
  readonly identifier: string | null;
  /** Columns that are not compared: those that either side predicts. */
  readonly targets: readonly string[];
}

/**
 * Finds the rows of one table in another: by the identifier, where rows of one identifier also agree in their cells
 * (files that both number their rows from 1 do not), and otherwise by content, that is by all columns that both tables
 * have, as their cells are written.
 *
 * Matches by content count only where they are more than independent tables of such rows would give: their number is
 * then about Poisson with the mean n·m·p, where p is the chance that two rows of a table are alike, estimated from both
 * tables. Rows that are not unique in their own table are not matched.
 *
 * @param ours rows to be found
 * @param theirs rows among which they are looked for
 */
export function matchRows(ours: Table, theirs: Table, { identifier, targets }: MatchOptions): MatchedRows {
  const pairs = ours.columns.flatMap((column): [Column, Column][] => {
    const other = theirs.columns.find(({ name }) => name === column.name);
    return other && column.name !== identifier && !targets.includes(column.name) ? [[column, other]] : [];
  });
  const named = identifier === null ? null : byIdentifier(ours, theirs, identifier, pairs);
  if (named) return { rows: named, by: 'identifier' };
  const alike = pairs.length < FEWEST_COLUMNS ? null : byContent(ours, theirs, pairs);
  return alike ? { rows: alike, by: 'content' } : { rows: new Int32Array(ours.rowCount).fill(-1), by: null };
}

function byIdentifier(
  ours: Table,
  theirs: Table,
  identifier: string,
  pairs: readonly [Column, Column][],
): Int32Array | null {
  const [own, other] = [ours, theirs].map(({ columns }) => columns.find(({ name }) => name === identifier));
  if (!own || !other) return null;
  const rowOf = new Map<string, number>();
  for (let row = 0; row < theirs.rowCount; row++) {
    const text = cellText(other, row);
    if (text !== null) rowOf.set(text, row);
  }
  const rows = new Int32Array(ours.rowCount);
  for (let row = 0; row < rows.length; row++) rows[row] = rowOf.get(cellText(own, row) ?? '') ?? -1;
  const found = Int32Array.from(rows.keys()).filter((row) => at(rows, row) >= 0);
  if (found.length === 0) return null;
  if (pairs.length === 0) return rows;
  const compared = found.filter((_, i) => i % Math.ceil(found.length / MOST_COMPARED) === 0);
  const agreement = (shift: number) => {
    let [same, of] = [0, 0];
    compared.forEach((row, i) => {
      const partner = at(rows, at(compared, (i + shift) % compared.length));
      for (const [mine, theirsOf] of pairs) {
        of++;
        if (cellText(mine, row) === cellText(theirsOf, partner)) same++;
      }
    });
    return same / of;
  };
  const [paired, shifted] = [agreement(0), agreement(Math.ceil(compared.length / 2))];
  return paired - shifted > AGREEMENT * (1 - shifted) || compared.length === 1 ? rows : null;
}

function byContent(ours: Table, theirs: Table, pairs: readonly [Column, Column][]): Int32Array | null {
  const mine = hashesOf(
    pairs.map(([column]) => column),
    ours.rowCount,
  );
  const other = hashesOf(
    pairs.map(([, column]) => column),
    theirs.rowCount,
  );
  const [ownRows, otherRows] = [rowsByHash(mine), rowsByHash(other)];
  const rows = new Int32Array(ours.rowCount).fill(-1);
  let matches = 0;
  for (const [hash, row] of ownRows.unique) {
    const partner = otherRows.unique.get(hash);
    if (partner === undefined) continue;
    rows[row] = partner;
    matches++;
  }
  const alike = Math.max(ownRows.alike, otherRows.alike);
  const expected = ownRows.unique.size * otherRows.unique.size * alike;
  return matches > expected + STEPS * Math.sqrt(expected) + STEPS ? rows : null;
}

/** A hash of the cells of each row as they are written; 53 bits, so that a million rows meet by chance once in 18,000 tables. */
function hashesOf(columns: readonly Column[], rowCount: number): Float64Array {
  const high = new Int32Array(rowCount);
  const low = new Int32Array(rowCount).fill(1);
  for (const column of columns) {
    const levels = isCoded(column) ? column.levels.map((level) => [fnv1a(level), fnv1a(level, 7)]) : null;
    for (let row = 0; row < rowCount; row++) {
      const [a = 0, b = 0] =
        levels && isCoded(column) ? (levels[column.codes[row] ?? -1] ?? []) : textHash(cellText(column, row));
      high[row] = Math.imul((high[row] ?? 0) ^ a, 0x5bd1e995) + 0x27d4eb2f;
      low[row] = Math.imul((low[row] ?? 0) ^ b, 0x85ebca6b) + (high[row] ?? 0);
    }
  }
  return Float64Array.from(high, (bits, row) => (bits >>> 11) * 2 ** 32 + ((low[row] ?? 0) >>> 0));
}

const textHash = (text: string | null): readonly number[] =>
  text === null ? [] : [fnv1a(text), fnv1a(text, 7)];

/** The rows whose hash no other row has, and the chance that two rows have the same one. */
function rowsByHash(hashes: Float64Array): { unique: Map<number, number>; alike: number } {
  const counts = new Map<number, number>();
  for (const hash of hashes) counts.set(hash, (counts.get(hash) ?? 0) + 1);
  const unique = new Map<number, number>();
  hashes.forEach((hash, row) => {
    if (counts.get(hash) === 1) unique.set(hash, row);
  });
  const n = hashes.length;
  let pairs = 0;
  for (const one of counts.values()) pairs += one * (one - 1);
  return { unique, alike: n < 2 ? 0 : pairs / (n * (n - 1)) };
}
