import type { PlainRecords } from '../../data/formats/csv/plain.js';
import { decoderOf, runsOf, type DelimitedText } from '../../data/formats/csv/records.js';
import { at } from '../../foundation/numbers.js';
import { decimalIn } from '../../data/table/decimal.js';
import type { TextIndex } from './text-index.js';

/** One record of a file of predictions, however its fields are held. */
export interface PredictionRecord {
  /** The line on which it starts. */
  readonly line: number;
  text(column: number): string;
  /** The position of a field among texts, or −1; blanks around it are passed over where it is not found with them. */
  among(texts: TextIndex, column: number): number;
  /** The finite number of a field, or NaN. */
  number(column: number): number;
}

/** Calls `visit` with each record after the header, which holds only until the next. */
export function eachRecord(source: DelimitedText, visit: (record: PredictionRecord) => void): void {
  const decode = decoderOf(source.dialect.encoding);
  for (const run of runsOf(source)) {
    if ('fields' in run) run.fields.forEach((fields, i) => visit(textRecord(fields, at(run.lines, i))));
    else {
      const record = new PlainRecord(run, decode, source.dialect.encoding !== 'windows-1252');
      for (let row = 0; row < run.rows; row++) visit(record.at(row));
    }
  }
}

/** A record cut into texts. */
const textRecord = (fields: readonly string[], line: number): PredictionRecord => ({
  line,
  text: (column) => fields[column] ?? '',
  among: (texts, column) => texts.ofText(fields[column] ?? ''),
  number: (column) => finiteNumber(fields[column] ?? ''),
});

/** A record among others that were not cut into texts: a text is made only of a field that is not as it should be. */
class PlainRecord implements PredictionRecord {
  private row = 0;

  constructor(
    private readonly records: PlainRecords,
    private readonly decode: (bytes: Uint8Array) => string,
    private readonly isUtf8: boolean,
  ) {}

  /** Turns to another record. */
  at(row: number): this {
    this.row = row;
    return this;
  }

  get line(): number {
    return this.records.lines[this.row] ?? 0;
  }

  text(column: number): string {
    return this.decode(this.records.bytes.subarray(this.from(column), this.to(column)));
  }

  among(texts: TextIndex, column: number): number {
    const { bytes } = this.records;
    const found = this.isUtf8 ? texts.ofBytes(bytes, this.from(column), this.to(column)) : -1;
    return found >= 0 ? found : texts.ofText(this.text(column));
  }

  number(column: number): number {
    const plain = decimalIn(this.records.bytes, this.from(column), this.to(column));
    return Number.isNaN(plain) ? finiteNumber(this.text(column)) : plain;
  }

  private from(column: number): number {
    return this.records.bounds[this.row * (this.records.width + 1) + column] ?? 0;
  }

  private to(column: number): number {
    return this.from(column + 1) - 1;
  }
}

function finiteNumber(text: string): number {
  const trimmed = text.trim();
  if (trimmed === '' || /^0[xob]/i.test(trimmed)) return NaN;
  const value = Number(trimmed);
  return Number.isFinite(value) ? value : NaN;
}
