import { HELD_OUT_FILE } from './held-out-file.js';
import { foldCsv } from '../../splitting/folds/fold-assignment.js';
import { rowNames } from '../../data/formats/assignment.js';
import { writeRecords } from '../../data/formats/csv/write.js';
import { at } from '../../foundation/numbers.js';
import type { PackContent } from '../questions/contract/kind.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { featuresOf } from '../../data/table/roles.js';
import { selectRows, type CodedColumn, type Table } from '../../data/table/table.js';
import { givenRows, heldOutOf, OWN_IDENTIFIER, packOrder } from '../material/held-out.js';
import type { DividedRequest } from './pack-request.js';

/** Rows under the header and columns of a text of records. */
export function shapeOf(text: string): [number, number] {
  const lines = text.trimEnd().split('\n');
  return [lines.length - 1, at(lines, 0).split(',').length];
}

/** What a model may learn from: features, weight and target, and the identifier before them. */
function learnedColumns({ table, roles }: DividedRequest): string[] {
  const features = featuresOf(table, roles).map(({ name }) => name);
  const identifier = roles.identifier === null ? [] : [roles.identifier];
  return [...identifier, ...features, ...(roles.weight === null ? [] : [roles.weight]), roles.target];
}

/** Training and validation rows with their targets, held-out rows without. */
export function givenTables(request: DividedRequest, heldout: Table | null): [string, Table][] {
  const { table, parts, secret } = request;
  const learned = learnedColumns(request);
  const tables: [string, Table][] = [['training.csv', selectRows(table, givenRows(request).rows, learned)]];
  const validation = packOrder(rowsOfPart(parts, 1), secret, 'validation order');
  if (validation.length > 0) tables.push(['validation.csv', selectRows(table, validation, learned)]);
  if (heldout) tables.push([HELD_OUT_FILE, heldout]);
  return tables;
}

export function heldOutTable(request: DividedRequest): Table {
  const { table, roles } = request;
  const { rows, identifier, identifiers } = heldOutOf(request);
  const features = featuresOf(table, roles).map(({ name }) => name);
  return {
    rowCount: rows.length,
    columns: [identifierColumn(identifier, identifiers), ...selectRows(table, rows, features).columns],
  };
}

export function identifierColumn(name: string, identifiers: readonly string[]): CodedColumn {
  return { kind: 'text', name, levels: identifiers, codes: Int32Array.from(identifiers.keys()) };
}

/** The fold of each training row, by its identifier or its place among the training rows from 0. */
export function foldFile(request: DividedRequest): PackContent[] {
  const { table, roles, folds } = request;
  if (!folds) return [];
  const { rows } = givenRows(request);
  const places = new Map(Array.from(rows, (row, place) => [row, place]));
  const names =
    roles.identifier === null
      ? { header: OWN_IDENTIFIER, name: (row: number) => String(places.get(row)) }
      : rowNames(table, roles.identifier);
  const columns = folds.drawn ? 4 : 3;
  return [
    {
      name: 'folds.csv',
      text: foldCsv(names, folds, rows),
      shape: [rows.length * folds.tests.length, columns],
    },
  ];
}

/** What the columns that students get mean, where the instructor has said so. */
export function columnsFile(request: DividedRequest, heldout: Table | null): PackContent[] {
  const names = new Set([...(heldout?.columns.map(({ name }) => name) ?? []), ...learnedColumns(request)]);
  const lines = [...names].flatMap((name) => {
    const text = request.descriptions[name];
    return text === undefined ? [] : [[name, text]];
  });
  if (lines.length === 0) return [];
  return [
    { name: 'columns.csv', text: writeRecords(['column', 'meaning'], lines), shape: [lines.length, 2] },
  ];
}
