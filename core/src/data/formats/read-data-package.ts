import { SieveError } from '../../foundation/errors.js';
import { recoded } from '../table/recode.js';
import type { Column } from '../table/table.js';
import { unpacked } from './archive.js';
import { chosenPart } from './chosen-part.js';
import { readCsv } from './csv/read.js';
import type { ReadOptions, ReadTable } from './read-table.js';

interface Field {
  readonly name: string;
  readonly type: string | null;
  readonly description: string | null;
}

interface Resource {
  readonly name: string;
  readonly path: string;
  readonly fields: readonly Field[];
  readonly missing: readonly string[] | null;
}

const DESCRIPTOR = 'datapackage.json';

/**
 * Reads one table of a zipped Data Package (Frictionless Data, Data Package 1.0, Tabular Data Resource 1.0): a CSV
 * file, its missing values, and what its schema says of its fields. A field that is declared to be a string stays a
 * column of categories, whatever its cells look like.
 *
 * @throws SieveError `data-package`, `too-large`, `no-such-sheet`, `choose-sheet`, and as `readCsv`
 */
export function readDataPackage(bytes: Uint8Array, options: ReadOptions): ReadTable {
  const { file } = options;
  const files = unpacked(bytes, file, (said) =>
    fail(file, `it is no zip archive that can be read (${said})`),
  );
  const resources = resourcesOf(files[DESCRIPTOR], file);
  const { place, remarks } = chosenPart(
    resources.map(({ name }) => name),
    'table',
    options,
  );
  const resource = resources[place];
  const csv = resource && files[resource.path];
  if (!csv) throw fail(file, `it lacks ${resource?.path ?? 'its table'}, which its descriptor names`);
  const read = readCsv(csv, {
    ...options,
    file: `${file}, ${resource.path}`,
    ...(resource.missing ? { missing: resource.missing } : {}),
  });
  const types = new Map(resource.fields.map(({ name, type }) => [name, type]));
  const asText = (column: Column) =>
    types.get(column.name) === 'string' ? recoded(column, (text) => text) : column;
  return {
    ...read,
    table: { ...read.table, columns: read.table.columns.map(asText) },
    remarks: [...remarks, ...read.remarks],
    descriptions: Object.fromEntries(
      resource.fields.flatMap(({ name, description }) => (description === null ? [] : [[name, description]])),
    ),
  };
}

const fail = (file: string, why: string) =>
  new SieveError('data-package', `${file} is no Data Package that can be read: ${why}.`, { file });

function resourcesOf(bytes: Uint8Array | undefined, file: string): Resource[] {
  if (!bytes) throw fail(file, `it lacks ${DESCRIPTOR}`);
  let descriptor: unknown;
  try {
    descriptor = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    throw fail(file, `${DESCRIPTOR} is no JSON`);
  }
  const listed = partOf(descriptor, 'resources');
  const resources = Array.isArray(listed) ? listed.flatMap(resourceOf) : [];
  if (resources.length === 0) throw fail(file, `${DESCRIPTOR} names no resource with the path of a CSV file`);
  return resources;
}

const partOf = (value: unknown, key: string): unknown =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[key] : undefined;
const textOf = (value: unknown, key: string): string | null => {
  const part = partOf(value, key);
  return typeof part === 'string' && part !== '' ? part : null;
};

/** A resource that is one CSV file; others are passed over. */
function resourceOf(value: unknown): Resource[] {
  const path = textOf(value, 'path');
  if (path === null || !/\.(csv|tsv|txt)$/i.test(path)) return [];
  const schema = partOf(value, 'schema');
  const [fields, missing] = [partOf(schema, 'fields'), partOf(schema, 'missingValues')];
  return [
    {
      name: textOf(value, 'name') ?? path,
      path,
      fields: (Array.isArray(fields) ? fields : []).flatMap((field) => {
        const name = textOf(field, 'name');
        return name === null
          ? []
          : [{ name, type: textOf(field, 'type'), description: textOf(field, 'description') }];
      }),
      missing:
        Array.isArray(missing) && missing.every((one): one is string => typeof one === 'string')
          ? missing
          : null,
    },
  ];
}
