import { SieveError } from '../../foundation/errors.js';
import type { Table } from '../table/table.js';
import type { ThreadTask, Work } from '../../foundation/work/work.js';
import { readArff } from './arff.js';
import { readArrow } from './arrow.js';
import { readCsv, readCsvWith } from './csv/read.js';
import { writeCsv } from './csv/write.js';
import { readJson, readNdjson, writeJson } from './json.js';
import { readParquet, writeParquet } from './parquet.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { readDataPackage } from './read-data-package.js';
import { readXlsx } from './xlsx.js';

/** A file format: which files are of it, how they are read, and how they are written where they can be. */
export interface Format {
  readonly name: string;
  /** Without the point, in small letters; the first one is for writing. */
  readonly extensions: readonly string[];
  /** Whether a damaged file may ask for any amount of work or memory, so that it is read in a thread that can be ended. */
  readonly isBinary: boolean;
  readonly read: (bytes: Uint8Array, options: ReadOptions, work: Work) => ReadTable | Promise<ReadTable>;
  readonly write: ((table: Table) => string | Uint8Array | Promise<Uint8Array>) | null;
}

const delimited = (bytes: Uint8Array, options: ReadOptions, work: Work) =>
  work.crew ? readCsvWith(work.crew, bytes, options, work) : readCsv(bytes, options);

/** Every format. The command line, the pages and the documentation are driven by this list. */
export const FORMATS: readonly Format[] = [
  { name: 'CSV', isBinary: false, extensions: ['csv', 'txt', 'data'], read: delimited, write: writeCsv },
  {
    name: 'TSV',
    isBinary: false,
    extensions: ['tsv', 'tab'],
    read: delimited,
    write: (table) => writeCsv(table, '\t'),
  },
  { name: 'JSON', isBinary: false, extensions: ['json'], read: readJson, write: writeJson },
  { name: 'NDJSON', isBinary: false, extensions: ['ndjson', 'jsonl'], read: readNdjson, write: null },
  { name: 'Parquet', isBinary: true, extensions: ['parquet'], read: readParquet, write: writeParquet },
  { name: 'XLSX', isBinary: true, extensions: ['xlsx'], read: readXlsx, write: null },
  { name: 'ARFF', isBinary: false, extensions: ['arff'], read: readArff, write: null },
  { name: 'Arrow', isBinary: true, extensions: ['arrow', 'feather', 'ipc'], read: readArrow, write: null },
  { name: 'Data Package', isBinary: true, extensions: ['zip'], read: readDataPackage, write: null },
];

/** The format of a file by its name; CSV where the name has no extension. Null for an extension that is not known. */
export function formatOf(file: string): Format | null {
  const extension = /\.([^./\\]+)$/.exec(file)?.[1]?.toLowerCase();
  return FORMATS.find((format) => format.extensions.includes(extension ?? 'csv')) ?? null;
}

/**
 * Reads a table in the format that the file's name says.
 *
 * @throws SieveError `format` for an extension that is not known, and as the format's reader
 */
export async function readTable(
  bytes: Uint8Array,
  options: ReadOptions,
  work: Work = {},
): Promise<ReadTable> {
  const { file } = options;
  const format = formatOf(file);
  if (!format) {
    const known = FORMATS.map(({ name, extensions }) => `${name} (.${extensions.join(', .')})`).join(', ');
    throw new SieveError(
      'format',
      `${file}: the end of its name is not known; tables are read as ${known}.`,
      {
        file,
      },
    );
  }
  if (bytes.length === 0) throw new SieveError('empty-file', `${file} is empty.`, { file });
  return format.isBinary && work.crew
    ? work.crew.run(readWholeTask, { bytes, options })
    : format.read(bytes, options, work);
}

interface WholeFile {
  readonly bytes: Uint8Array;
  readonly options: ReadOptions;
}

/** Reads a whole file in one thread. */
export const readWholeTask: ThreadTask<WholeFile, ReadTable> = {
  name: 'readWhole',
  run: ({ bytes, options }) => readTable(bytes, options),
};
