import { SieveError } from '../../foundation/errors.js';
import { at, counted } from '../../foundation/numbers.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { decodeText, refuseForeign } from './sniff.js';
import { tableOfValues } from './values.js';

/** An attribute: its name, and the values it may take where they are listed. */
interface Attribute {
  readonly name: string;
  readonly values: ReadonlySet<string> | null;
}

/**
 * Reads an attribute-relation file (ARFF) with dense rows.
 *
 * @throws SieveError `arff` with the line, and as `refuseForeign` and `tableOfValues`
 */
export function readArff(bytes: Uint8Array, options: ReadOptions): ReadTable {
  const { file } = options;
  refuseForeign(bytes, file);
  const fail = (line: number, message: string, column?: number) =>
    new SieveError('arff', `${file}, line ${line}: ${message}`, {
      file,
      line,
      ...(column === undefined ? {} : { column }),
    });
  const attributes: Attribute[] = [];
  const rows: (string | null)[][] = [];
  const lines: number[] = [];
  let inData = false;
  const texts = decodeText(bytes).split(/\r\n|\n|\r/);
  for (const [i, raw] of texts.entries()) {
    const line = i + 1;
    const text = raw.trim();
    if (text === '' || text.startsWith('%')) continue;
    if (!inData) {
      if (/^@relation\b/i.test(text)) continue;
      if (/^@attribute\s/i.test(text)) attributes.push(attributeOf(text, (message) => fail(line, message)));
      else if (/^@data$/i.test(text)) inData = true;
      else throw fail(line, 'before @data there are only @relation and @attribute lines.');
      continue;
    }
    if (text.startsWith('{')) throw fail(line, 'sparse rows are not read; save the file with dense rows.');
    const fields = fieldsOf(text, ',', (message) => fail(line, message));
    if (fields.length !== attributes.length)
      throw fail(
        line,
        `${counted(fields.length, 'value')}, but there are ${counted(attributes.length, 'attribute')}.`,
        Math.min(fields.length, attributes.length) + 1,
      );
    rows.push(
      fields.map(({ text: value, quoted }, c) => {
        if (value === '?' && !quoted) return null;
        const { name, values } = at(attributes, c);
        if (values && !values.has(value))
          throw fail(line, `“${value}” is none of the values of ${name}.`, c + 1);
        return value;
      }),
    );
    lines.push(line);
  }
  if (!inData) throw new SieveError('arff', `${file} has no @data line.`, { file });
  return tableOfValues(
    attributes.map(({ name }, c) => ({ name, values: rows.map((row) => at(row, c)) })),
    rows.length,
    options,
    (row) => lines[row] ?? row + 1,
  );
}

function attributeOf(text: string, fail: (message: string) => SieveError): Attribute {
  const match =
    /^@attribute\s+(?:'((?:[^'\\]|\\.)*)'|"((?:[^"\\]|\\.)*)"|(\S+?))\s*(\{.*\}|\s[a-z].*)$/i.exec(text);
  if (!match) throw fail('an attribute has a name and a type.');
  const [, single, double, plain, type = ''] = match;
  const name = plain ?? (single ?? double ?? '').replace(/\\(.)/g, '$1');
  const kind = type.trim();
  if (kind.startsWith('{')) {
    const values = fieldsOf(kind.slice(1, -1), ',', fail).map((field) => field.text);
    return { name, values: new Set(values) };
  }
  if (!/^(?:numeric|real|integer|string|date)\b/i.test(kind))
    throw fail(`“${kind}” is no type that is known.`);
  return { name, values: null };
}

interface Field {
  readonly text: string;
  readonly quoted: boolean;
}

const QUOTED = /^\s*(?:'((?:[^'\\]|\\.)*)'|"((?:[^"\\]|\\.)*)")\s*$/;

/** The fields of a line. A field in single or double quotes may hold the separator; a backslash escapes. */
function fieldsOf(text: string, separator: string, fail: (message: string) => SieveError): Field[] {
  const fields: Field[] = [];
  let start = 0;
  let quote = '';
  for (let i = 0; i <= text.length; i++) {
    const char = text.charAt(i);
    if (quote !== '') {
      if (i === text.length) throw fail(`a quotation mark in value ${fields.length + 1} is never closed.`);
      if (char === '\\') i++;
      else if (char === quote) quote = '';
    } else if (i === text.length || char === separator) {
      fields.push(fieldOf(text.slice(start, i)));
      start = i + 1;
    } else if ((char === "'" || char === '"') && text.slice(start, i).trim() === '') {
      quote = char;
    }
  }
  return fields;
}

function fieldOf(raw: string): Field {
  const match = QUOTED.exec(raw);
  if (!match) return { text: raw.trim(), quoted: false };
  return { text: (match[1] ?? match[2] ?? '').replace(/\\(.)/g, '$1'), quoted: true };
}
