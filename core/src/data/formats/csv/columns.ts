import { at } from '../../../foundation/numbers.js';
import { gatherCells } from '../../table/gather.js';
import type { RawCells } from '../../table/infer.js';
import type { Piece } from './pieces.js';
import { gatherPlain } from './plain.js';
import { decoderOf, plainPiece, recordsOf, type DelimitedText } from './records.js';

/** A piece of a delimited text and how its columns are to be read. */
export interface PieceRequest {
  readonly source: Omit<DelimitedText, 'bytes'>;
  readonly piece: Piece;
  /** Positions of the columns to read. */
  readonly columns: readonly number[];
  readonly missing: readonly string[];
  /** Whether cells are kept as texts even if all are numbers, because those of another piece are not. */
  readonly asTexts: boolean;
}

export const readPieceTask = { name: 'readPiece', run: readPiece };

/** The wanted columns of one piece, in the order asked for; runs in any thread. */
export function readPiece({ source, piece, columns, missing, asTexts }: PieceRequest): RawCells[] {
  const markers = new Set(missing);
  const plain = plainPiece(source, piece);
  if (plain) {
    const decode = decoderOf(source.dialect.encoding);
    return columns.map((column) => gatherPlain(plain, column, decode, markers, asTexts));
  }
  const { fields, lines } = recordsOf(source, piece);
  return columns.map((column) =>
    gatherCells(
      fields.length,
      (row) => fields[row]?.[column] ?? '',
      (row) => at(lines, row),
      markers,
      asTexts,
    ),
  );
}
