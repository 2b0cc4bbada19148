import { closest } from 'fastest-levenshtein';
import { allHold, check, type Check } from '../../../foundation/check.js';
import { unreadable } from '../../files/predictions.js';
import { Offences } from '../../files/offences.js';
import { eachRecord } from '../../files/record.js';
import { largestFile } from '../../files/file-limits.js';
import { readRowsFile, type NamedRows } from '../../files/rows-file.js';
import { SieveError } from '../../../foundation/errors.js';
import { unpacked } from '../../../data/formats/archive.js';
import { openDelimited } from '../../../data/formats/csv/records.js';
import { writeRecords } from '../../../data/formats/csv/write.js';
import { at, counted } from '../../../foundation/numbers.js';
import { rowCells, type UnreadRows } from '../assignments/unread-rows.js';
import type { SplitRules } from './question.js';
import type { Read } from '../contract/answer.js';

const OF = 'file of training rows';

/** A cell that must name one of a few parts. */
const partCell = (parts: readonly string[]) => ({
  name: 'part',
  expected: parts.join(', '),
  read: (text: string) => {
    const code = parts.indexOf(text.toLowerCase());
    return code >= 0 ? code : { wrong: `is no part; the nearest is “${closest(text, [...parts])}”` };
  },
});

export function readSplit(bytes: Uint8Array, file: string, rules: SplitRules): Read<Int32Array> {
  if (isZip(bytes)) {
    const table = oneTable(bytes, file, rules);
    return table instanceof Uint8Array ? readSplit(table, file, rules) : failed(table);
  }
  const mask = rules.parts.length === 2 ? maskOf(bytes, rules.identifiers.length) : null;
  if (mask) return mask;
  const { checks, rows, values } = readRowsFile(bytes, file, rules, partCell(rules.parts), OF);
  return { checks, rows, content: values };
}

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** What stands beside each identifier of a split that fails its checks, whatever its form; null where that cannot be read. */
export function splitCells(bytes: Uint8Array, file: string, rules: SplitRules): UnreadRows | null {
  if (!isZip(bytes)) return rowCells(bytes, file, rules, 'part');
  const table = oneTable(bytes, file, rules);
  return table instanceof Uint8Array ? rowCells(table, file, rules, 'part') : null;
}

/** A zip with a table of identifiers for each part, taken together as one file of parts; else the check that it fails. */
function oneTable(bytes: Uint8Array, file: string, rules: SplitRules): Uint8Array | Check {
  const expected = rules.parts.map((name) => `${name}.csv`).join(', ');
  try {
    const entries = unpacked(
      bytes,
      file,
      (said) => new SieveError('not-a-zip', `${file} cannot be unpacked: ${said}.`, { file }),
      undefined,
      largestFile(rules),
    );
    const tables = Object.entries(entries).filter(
      ([name, content]) => content.length > 0 && !name.endsWith('/'),
    );
    const unknown = tables.find(([name]) => !rules.parts.includes(stemOf(name)));
    const lacking = rules.parts.find((part) => !tables.some(([name]) => stemOf(name) === part));
    if (unknown || lacking !== undefined)
      return check(
        'parts',
        'fails',
        unknown
          ? `${unknown[0]} in ${file} is the table of no part.`
          : `${file} has no ${lacking ?? ''}.csv.`,
        { measured: tables.map(([name]) => name).join(', '), expected },
      );
    const records = tables.flatMap(([name, content]) => identifiersIn(content, name, rules, stemOf(name)));
    return new TextEncoder().encode(writeRecords([rules.identifier, 'part'], records));
  } catch (error) {
    return unreadable(error, `a zip with ${expected}`);
  }
}

const stemOf = (name: string): string => (name.split('/').at(-1) ?? '').replace(/\.csv$/i, '').toLowerCase();

/** The identifiers of one table, each with its part. @throws SieveError where it has no such column */
function identifiersIn(
  content: Uint8Array,
  name: string,
  { identifier }: NamedRows,
  part: string,
): string[][] {
  const source = openDelimited(content, name);
  const column = source.header.indexOf(identifier);
  if (column < 0)
    throw new SieveError('csv-header', `${name}, line 1: there is no column “${identifier}”.`, {
      file: name,
      line: 1,
    });
  const records: string[][] = [];
  eachRecord(source, (record) => records.push([record.text(column), part]));
  return records;
}

const TRUE = new Set(['1', 'true', 't', 'training']);
const FALSE = new Set(['0', 'false', 'f', 'test']);

/** A single column of true and false, a line for each row, with or without a header; null where it is none. */
function maskOf(bytes: Uint8Array, rowCount: number): Read<Int32Array> | null {
  const lines = new TextDecoder()
    .decode(bytes)
    .split(/\r?\n/)
    .map((line) => line.trim().replace(/^"|"$/g, '').toLowerCase());
  while (lines.at(-1) === '') lines.pop();
  const isCell = (line: string) => TRUE.has(line) || FALSE.has(line);
  const hasHeader = lines.length > 1 && !isCell(at(lines, 0));
  const cells = hasHeader ? lines.slice(1) : lines;
  if (cells.length === 0 || lines.some((line) => /[,;\t]/.test(line)) || !isCell(at(cells, 0))) return null;
  const wrong = new Offences();
  cells.forEach((cell, i) => {
    const line = i + (hasHeader ? 2 : 1);
    if (!isCell(cell)) wrong.add(line, 1, `line ${line}: “${cell}” is neither true nor false`);
  });
  const checks = [
    check(
      'rows',
      cells.length === rowCount ? 'holds' : 'fails',
      cells.length === rowCount
        ? `A mask of ${counted(rowCount, 'row')}`
        : 'The mask has another number of rows than the training file.',
      {
        measured: counted(cells.length, 'line'),
        expected: counted(rowCount, 'line'),
      },
    ),
    wrong.total === 0
      ? check('cells', 'holds', 'Every line is true or false')
      : check('cells', 'fails', 'Some lines are neither true nor false.', {
          measured: counted(wrong.total, 'line'),
          expected: 'true or false, or 1 or 0',
          examples: wrong.examples,
        }),
  ];
  return {
    checks,
    rows: cells.length,
    content: allHold(checks) ? Int32Array.from(cells, (line) => (TRUE.has(line) ? 0 : 1)) : null,
  };
}

const failed = (one: Check): Read<Int32Array> => ({ checks: [one], rows: null, content: null });
