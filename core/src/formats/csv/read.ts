import { SieveError } from '../../errors.js';
import { inferColumn, MISSING_MARKERS, type RawColumn } from '../../table/infer.js';
import type { Table } from '../../table/table.js';
import { eachRecord, openDelimited, type Dialect } from './records.js';

export interface ReadOptions {
  /** Name used in errors. */
  readonly file: string;
  /** Cells that stand for "no value"; by default `MISSING_MARKERS`. */
  readonly missing?: readonly string[];
}

/** A table as it was read; `notes` holds for each column what stopped it from being numeric, or null. */
export interface ReadTable {
  readonly table: Table;
  readonly dialect: Dialect;
  readonly notes: readonly (string | null)[];
}

/** A column under construction: each distinct text is kept once, rows hold its index. */
class ColumnBuilder {
  private readonly codeOf = new Map<string, number>();
  private readonly firstLines: number[] = [];
  private codes = new Int32Array(1024);
  private length = 0;

  constructor(private readonly name: string) {}

  push(text: string, line: number): void {
    let code = this.codeOf.get(text);
    if (code === undefined) {
      code = this.codeOf.size;
      this.codeOf.set(text, code);
      this.firstLines.push(line);
    }
    if (this.length === this.codes.length) {
      const larger = new Int32Array(this.length * 2);
      larger.set(this.codes);
      this.codes = larger;
    }
    this.codes[this.length++] = code;
  }

  finish(): RawColumn {
    const codes = this.codes.slice(0, this.length);
    return { name: this.name, texts: [...this.codeOf.keys()], firstLines: this.firstLines, codes };
  }
}

/**
 * Reads delimited text into a table, with types inferred from whole columns.
 *
 * @throws SieveError as `openDelimited` and `eachRecord`, and `csv-no-rows` for a header alone
 */
export function readCsv(bytes: Uint8Array, options: ReadOptions): ReadTable {
  const source = openDelimited(bytes, options.file);
  const builders = source.header.map((name) => new ColumnBuilder(name));
  let rowCount = 0;
  eachRecord(source, (fields, line) => {
    rowCount++;
    builders.forEach((builder, i) => builder.push(fields[i] ?? '', line));
    return true;
  });
  if (rowCount === 0) {
    throw new SieveError('csv-no-rows', `${options.file} has a header and no rows under it.`, {
      file: options.file,
      line: 1,
    });
  }
  const inferred = builders.map((builder) =>
    inferColumn(builder.finish(), options.missing ?? MISSING_MARKERS),
  );
  return {
    table: { rowCount, columns: inferred.map((i) => i.column) },
    dialect: source.dialect,
    notes: inferred.map((i) => i.note),
  };
}
