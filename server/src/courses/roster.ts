import { SieveError } from '@modest-sieve/core/foundation';
import { cellText, readCsv, type Column } from '@modest-sieve/core/data';
import { isEmail } from 'class-validator';
import type { RosterLine } from '../api/api.js';

/** A line as the file has it; `problem` says why it cannot be taken. */
export type ReadLine = Omit<RosterLine, 'what'>;

const ROLES = ['student', 'assistant'] as const;
/** Names of columns, in small letters and without anything but letters, as class lists have them. */
const HEADERS = {
  name: ['name', 'fullname', 'student', 'studentname', 'displayname'],
  first: ['firstname', 'givenname', 'forename', 'first'],
  last: ['lastname', 'surname', 'familyname', 'last'],
  address: ['address', 'email', 'emailaddress', 'mail'],
  role: ['role'],
};
const MOST_LINES = 5000;
const LONGEST_NAME = 100;

/**
 * Reads a roster: CSV with a column of names, or one of first and one of last names, a column of addresses, and optionally `role`.
 *
 * @throws SieveError as `readCsv`, and `roster-header`, `roster-size`
 */
export function readRoster(bytes: Uint8Array, file: string): ReadLine[] {
  const { table } = readCsv(bytes, { file });
  const column = (names: readonly string[]): Column | undefined =>
    table.columns.find((c) => names.includes(c.name.toLowerCase().replace(/[^a-z]/g, '')));
  const whole = column(HEADERS.name);
  const parts = [column(HEADERS.first), column(HEADERS.last)].filter((one) => one !== undefined);
  const names = whole ? [whole] : parts;
  const address = column(HEADERS.address);
  const role = column(HEADERS.role);
  if (names.length === 0 || !address) {
    const lacking = names.length > 0 ? 'address' : 'name';
    const header = table.columns.map((c) => `“${c.name}”`).join(', ');
    throw new SieveError(
      'roster-header',
      `${file}, line 1: there is no column “${lacking}”; there are ${header}. A class list has name, or first name and last name, and email.`,
      { file, line: 1 },
    );
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
    const person = names
      .map((one) => (cellText(one, row) ?? '').trim())
      .filter((part) => part !== '')
      .join(' ');
    const earlier = firstLine.get(email);
    if (earlier === undefined) firstLine.set(email, line);
    const problem =
      person === '' || person.length > LONGEST_NAME
        ? 'there is no name, or too long a one'
        : !isEmail(email)
          ? `“${email}” is not an address`
          : earlier !== undefined
            ? `the same address is on line ${earlier}`
            : known === undefined
              ? `“${said}” is no role; there are ${ROLES.join(' and ')}`
              : null;
    return { line, name: person, email, role: known ?? 'student', problem };
  });
}
