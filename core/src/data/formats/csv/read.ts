import { SieveError } from '../../../foundation/errors.js';
import { indexRemark } from '../index-name.js';
import { at } from '../../../foundation/numbers.js';
import { MISSING_MARKERS } from '../../table/cell.js';
import { areAlike, joinCells } from '../../table/gather.js';
import { inferColumn, type RawCells } from '../../table/infer.js';
import type { ReadOptions, ReadTable } from '../read-table.js';
import { runAll, type Crew, type Work } from '../../../foundation/work/work.js';
import { readPiece, readPieceTask, type PieceRequest } from './columns.js';
import type { Piece } from './pieces.js';
import { openDelimited, piecesOf, type Dialect } from './records.js';

export interface ReadCsv extends ReadTable {
  readonly dialect: Dialect;
}

/**
 * Reads delimited text into a table, with types inferred from whole columns.
 *
 * @throws SieveError as `openDelimited` and `recordsOf`, and `csv-no-rows` for a header alone
 */
export function readCsv(bytes: Uint8Array, options: ReadOptions): ReadCsv {
  const reading = startReading(bytes, options);
  const runs: RawCells[][] = [];
  for (const { input } of reading.first()) runs.push(readPiece(input));
  for (const again of reading.again(runs)) again.keep(readPiece(again.input));
  return reading.finish(runs);
}

/**
 * The same, piece by piece in the threads of a crew.
 *
 * @throws SieveError as `readCsv`
 */
export async function readCsvWith(
  crew: Crew,
  bytes: Uint8Array,
  options: ReadOptions,
  work: Work,
): Promise<ReadCsv> {
  const reading = startReading(bytes, options);
  const runs = await runAll(readPieceTask, sendable(reading.first()), crew, work, `reading ${options.file}`);
  const mixed = [...sendable(reading.again(runs))];
  const reread = await runAll(readPieceTask, mixed, crew, work, `reading ${options.file} again`);
  mixed.forEach((again, i) => again.keep(at(reread, i)));
  return reading.finish(runs);
}

/** Requests with bytes of their own: sending a part of an array to another thread would send all of it. */
function* sendable<T extends { readonly input: PieceRequest }>(requests: Iterable<T>): Generator<T> {
  for (const request of requests) {
    const { input } = request;
    yield {
      ...request,
      input: { ...input, piece: { ...input.piece, bytes: new Uint8Array(input.piece.bytes) } },
    };
  }
}

/** What is read of a file, piece by piece, and what becomes of it; who runs the pieces is left to the caller. */
function startReading(bytes: Uint8Array, { file, missing, only }: ReadOptions) {
  const opened = openDelimited(bytes, file);
  const { bytes: body, ...source } = opened;
  const names = only ?? source.header;
  const columns = names.map((name) => {
    const column = source.header.indexOf(name);
    if (column < 0) throw noColumn(file, name);
    return column;
  });
  const request = (piece: Piece): PieceRequest => ({
    source,
    piece,
    columns,
    missing: missing ?? MISSING_MARKERS,
    asTexts: false,
  });
  const pieces: Piece[] = [];
  return {
    *first() {
      let read = 0;
      for (const piece of piecesOf(opened)) {
        pieces.push(piece);
        read += piece.bytes.length;
        yield { input: request(piece), share: read / body.length };
      }
    },
    /** A column that turned out as numbers in some pieces and texts in others is read as texts where it was numbers. */
    *again(runs: readonly RawCells[][]) {
      const mixed = columns.map((_, c) => c).filter((c) => !areAlike(runs.map((run) => at(run, c))));
      for (const [i, run] of runs.entries()) {
        const numbers = mixed.filter((c) => at(run, c).kind === 'numbers');
        if (numbers.length === 0) continue;
        yield {
          input: {
            ...request(at(pieces, i)),
            columns: numbers.map((c) => at(columns, c)),
            asTexts: true,
          },
          share: (i + 1) / runs.length,
          keep: (cells: readonly RawCells[]) =>
            numbers.forEach((c, position) => {
              run[c] = at(cells, position);
            }),
        };
      }
    },
    finish(runs: readonly RawCells[][]): ReadCsv {
      const inferred = names.map((name, c) => inferColumn(name, joinCells(runs.map((run) => at(run, c)))));
      const rowCount = rowsOf(runs);
      if (rowCount === 0) {
        throw new SieveError('csv-no-rows', `${file} has a header and no rows under it.`, { file, line: 1 });
      }
      return {
        table: { rowCount, columns: inferred.map((i) => i.column) },
        dialect: source.dialect,
        notes: inferred.map((i) => i.note),
        remarks: [
          ...(source.dialect.encoding === 'windows-1252'
            ? [`${file} is not UTF-8; it was read as Windows-1252.`]
            : []),
          ...(source.isIndexed ? [indexRemark(file, 1, at(source.header, 0))] : []),
        ],
      };
    },
  };
}

const noColumn = (file: string, name: string) =>
  new SieveError('no-such-column', `${file}, line 1: there is no column “${name}”.`, {
    file,
    line: 1,
    field: name,
  });

function rowsOf(runs: readonly RawCells[][]): number {
  return runs.reduce((total, [first]) => {
    if (!first) return total;
    return total + (first.kind === 'numbers' ? first.values : first.codes).length;
  }, 0);
}
