import { cellText, readCsv, SieveError, type Column } from '@modest-sieve/core';
import { isEmail } from 'class-validator';
import type { RosterLine } from '../api/api.js';

/** A line as the file has it; `problem` says why it cannot be taken. */
export type ReadLine = Omit<RosterLine, 'what'>;

const ROLES = ['student', 'assistant'] as const;
const MOST_LINES = 5000;
const LONGEST_NAME = 100;

/**
 * Reads a roster: CSV with the columns `name` and `address` (or `email`), and optionally `role`.
 *
 * @throws SieveError as `readCsv`, and `roster-header`, `roster-size`
 */
export function readRoster(bytes: Uint8Array, file: string): ReadLine[] {
  const { table } = readCsv(bytes, { file });
  const column = (...names: string[]): Column | undefined =>
    table.columns.find((c) => names.includes(c.name.toLowerCase()));
  const name = column('name');
  const address = column('address', 'email');
  const role = column('role');
  if (!name || !address) {
    const lacking = name ? 'address' : 'name';
    throw new SieveError('roster-header', `${file}, line 1: there is no column “${lacking}”.`, {
      file,
      line: 1,
    });
  }
  if (table.rowCount > MOST_LINES)
    throw new SieveError('roster-size', `${file} has more than ${MOST_LINES} lines.`, { file });
  const firstLine = new Map<string, number>();
  return Array.from({ length: table.rowCount }, (_, row) => {
    // Lines are counted as records: a name with a line end in it is no name.
    const line = row + 2;
    const email = (cellText(address, row) ?? '').trim().toLowerCase();
    const said = role ? (cellText(role, row) ?? 'student').trim().toLowerCase() : 'student';
    const known = ROLES.find((r) => r === said);
    const person = (cellText(name, row) ?? '').trim();
    const earlier = firstLine.get(email);
    if (earlier === undefined) firstLine.set(email, line);
    const problem =
      person === '' || person.length > LONGEST_NAME
        ? 'there is no name, or too long a one'
        : !isEmail(email)
          ? `“${email}” is not an address`
          : earlier !== undefined
            ? `the same address stands on line ${earlier}`
            : known === undefined
              ? `“${said}” is no role; there are ${ROLES.join(' and ')}`
              : null;
    return { line, name: person, email, role: known ?? 'student', problem };
  });
}
