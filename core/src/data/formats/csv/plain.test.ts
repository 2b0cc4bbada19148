import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bytesOf } from '../../../../test/files.js';
import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import { gatherCells } from '../../table/gather.js';
import { readPiece } from './columns.js';
import { cutPieces } from './pieces.js';
import { recordsOf, type DelimitedText } from './records.js';

const source = (newline: '\n' | '\r'): Omit<DelimitedText, 'bytes'> => ({
  file: 'x.csv',
  dialect: { encoding: 'utf-8', delimiter: ',' },
  header: ['a', 'b'],
  isIndexed: false,
  newline,
});
const missing = ['', ' ', 'NA'];
const outcome = (work: () => unknown): unknown => {
  try {
    return work();
  } catch (error) {
    if (error instanceof SieveError) return [error.code, error.message, error.place];
    throw error;
  }
};

describe('pieces without quotation marks', () => {
  const field = fc.oneof(
    fc.constantFrom(
      '',
      ' ',
      'NA',
      '0',
      '007',
      '1.50',
      '.5',
      '5.',
      '-3',
      '1e3',
      '12345678901234567',
      'é',
      ' 7 ',
      'a\r',
    ),
    fc.string({ maxLength: 4 }).map((text) => text.replace(/[",\r\n\0]/g, 'x')),
  );
  const text = fc
    .array(fc.array(field, { minLength: 1, maxLength: 3 }), { maxLength: 12 })
    .chain((rows) => fc.constantFrom('\n', '\r\n').map((end) => rows.map((row) => row.join(',')).join(end)));

  it('are read as papaparse reads them, ragged records and blank lines too', () => {
    fc.assert(
      fc.property(text, fc.boolean(), (body, asTexts) => {
        const piece = { bytes: bytesOf(body), line: 2 };
        const fast = outcome(() =>
          readPiece({ source: source('\n'), piece, columns: [1, 0], missing, asTexts }),
        );
        const slow = outcome(() => {
          const { fields, lines } = recordsOf(source('\n'), piece);
          return [1, 0].map((column) =>
            gatherCells(
              fields.length,
              (row) => fields[row]?.[column] ?? '',
              (row) => at(lines, row),
              new Set(missing),
              asTexts,
            ),
          );
        });
        expect(fast).toEqual(slow);
      }),
      { numRuns: 1000 },
    );
  });
});

describe('cutting into pieces', () => {
  it('loses no byte, counts lines, and cuts only where a record ends', () => {
    const cell = fc.constantFrom('a', '1', '"x, y"', '"p""q"', '"line\nend"', '', '"\n\n"');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 1, max: 20 }),
        (rows, least) => {
          const records = rows.map(([a, b]) => `${a},${b}\n`);
          const body = records.join('');
          const ends = new Set<number>();
          let position = 0;
          for (const record of records) ends.add((position += record.length));
          let cut = 0;
          for (const piece of cutPieces(bytesOf(body), ',', least)) {
            expect(piece.line).toBe(body.slice(0, cut).split('\n').length);
            cut += piece.bytes.length;
            expect(ends.has(cut)).toBe(true);
          }
          expect(cut).toBe(body.length);
        },
      ),
      { numRuns: 500 },
    );
  });
});
