import { openDelimited } from '../../data/formats/csv/records.js';
import { at, counted } from '../../foundation/numbers.js';
import { allHold, check, type Check } from '../../foundation/check.js';
import { rowsCheck } from './file-checks.js';
import { nearestName } from './layout.js';
import { Offences } from './offences.js';
import { unreadable } from './predictions.js';
import { eachRecord } from './record.js';
import { TextIndex } from './text-index.js';

/** The rows that a file must name, each once. */
export interface NamedRows {
  readonly identifier: string;
  readonly identifiers: readonly string[];
}

/** A column that gives something for each row. */
export interface CellRule {
  readonly name: string;
  /** What a cell holds as a number, or what is wrong with it: "is no part; the nearest is “test”". */
  readonly read: (text: string) => number | { readonly wrong: string };
  /** What the cells must be, for the check. */
  readonly expected: string;
}

export interface RowsFile {
  readonly checks: readonly Check[];
  readonly rows: number | null;
  /** What the cells hold, aligned to the identifiers; null unless every check holds. */
  readonly values: Int32Array | null;
}

/**
 * Reads a file that gives something for each named row.
 *
 * @param of what the identifiers are those of, for messages: "file of training rows"
 */
export function readRowsFile(
  bytes: Uint8Array,
  file: string,
  named: NamedRows,
  cell: CellRule,
  of: string,
): RowsFile {
  const { identifier, identifiers } = named;
  try {
    const source = openDelimited(bytes, file);
    const columns = [identifier, cell.name].map((name) => source.header.indexOf(name));
    const lacking = [identifier, cell.name].find((_, i) => at(columns, i) < 0);
    const [idColumn = 0, cellColumn = 0] = columns;
    const expected = `${identifier}, ${cell.name}`;
    if (lacking !== undefined) {
      const message = `Line 1: there is no column “${lacking}”${nearestName(lacking, source.header)}.`;
      const measured = source.header.join(', ');
      return {
        checks: [check('header', 'fails', message, { measured, expected })],
        rows: null,
        values: null,
      };
    }
    const index = new TextIndex(identifiers);
    const firstLine = new Int32Array(identifiers.length);
    const values = new Int32Array(identifiers.length).fill(-1);
    const [missing, unknown, repeated, wrong] = [0, 1, 2, 3].map(() => new Offences()) as [
      Offences,
      Offences,
      Offences,
      Offences,
    ];
    let rows = 0;
    eachRecord(source, (record) => {
      rows++;
      const { line } = record;
      const row = record.among(index, idColumn);
      const name = () => record.text(idColumn);
      if (row < 0)
        unknown.add(line, idColumn + 1, `line ${line}: ${identifier} “${name()}” is not in the ${of}`);
      else if ((firstLine[row] ?? 0) > 0)
        repeated.add(
          line,
          idColumn + 1,
          `${identifier} ${name()} is on lines ${firstLine[row] ?? 0} and ${line}`,
        );
      else {
        firstLine[row] = line;
        const text = record.text(cellColumn).trim();
        const value = text === '' ? { wrong: `has no ${cell.name}` } : cell.read(text);
        if (typeof value === 'number') values[row] = value;
        else
          wrong.add(
            line,
            cellColumn + 1,
            text === ''
              ? `line ${line}: ${name()} ${value.wrong}`
              : `line ${line}: “${text}” for ${name()} ${value.wrong}`,
          );
      }
    });
    identifiers.forEach((id, row) => {
      if (firstLine[row] === 0) missing.add(null, null, `${identifier} ${id} is missing`);
    });
    const checks = [
      check('header', 'holds', `Header: ${expected}`),
      rowsCheck(named, rows, { missing, unknown, repeated }, of),
      wrong.total === 0
        ? check('cells', 'holds', `Every ${cell.name} is ${cell.expected}`)
        : check('cells', 'fails', `Some cells are no ${cell.name}.`, {
            measured: counted(wrong.total, 'row'),
            expected: cell.expected,
            examples: wrong.examples,
          }),
    ];
    return { checks, rows, values: allHold(checks) ? values : null };
  } catch (error) {
    return {
      checks: [unreadable(error, `CSV with the columns ${identifier}, ${cell.name}`)],
      rows: null,
      values: null,
    };
  }
}
