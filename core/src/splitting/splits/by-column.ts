import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { labelsOf, type Labelled } from '../../data/table/labels.js';
import { columnNamed, type Table } from '../../data/table/table.js';
import { PART_NAMES } from '../parts/part-names.js';
import type { PartSize } from '../parts/parts.js';
import { everyRowIsAssigned } from './invariants.js';
import { fail } from './sizes.js';
import { splitter, type AskedSplit, type SplitMethod } from './splitter.js';

const column: SplitMethod = {
  name: 'column',
  id: 'column@1',
  title: 'by the values of a column',
  isRandom: false,
  needs: ['column'],
  chosenBy: ['column'],
  invariants: [everyRowIsAssigned],
  assign: ({ table, plan, rows, parts }) => {
    const column = columnNamed(table, plan.column ?? '');
    splitByColumn(rows, column.name, labelsOf(column), plan.parts, parts);
  },
};

/**
 * column@1: a row goes to the part that is called like its value.
 *
 * @throws SieveError `unknown-part` for a value that names no part, `missing-part` for a row without a value
 */
function splitByColumn(
  rows: Int32Array,
  name: string,
  values: Labelled,
  sizes: readonly PartSize[],
  parts: Int8Array,
): void {
  const partOf = values.labels.map((label) => sizes.findIndex((part) => part.name === label));
  for (const row of rows) {
    const code = at(values.codes, row);
    if (code < 0)
      throw new SieveError('missing-part', `Row ${row + 1} has no ${name}, so it belongs to no part.`, {
        field: name,
      });
    const part = at(partOf, code);
    if (part < 0)
      throw new SieveError(
        'unknown-part',
        `Row ${row + 1}: ${name} “${values.labels[code]}” is the name of no part.`,
        {
          field: name,
        },
      );
    parts[row] = part;
  }
}

/** A column of the parts' names stands in for the column, whose other values are for training. */
function askByColumn(
  table: Table,
  {
    column: name,
    heldout,
    validation,
  }: { column: string; heldout: readonly string[]; validation: readonly string[] },
): AskedSplit {
  const { labels, codes } = labelsOf(columnNamed(table, name));
  for (const [field, values] of [
    ['heldout', heldout],
    ['validation', validation],
  ] as const) {
    const unknown = values.find((value) => !labels.includes(value));
    if (unknown !== undefined) throw fail(field, `No row has “${unknown}” in ${name}.`);
  }
  const both = heldout.find((value) => validation.includes(value));
  if (both !== undefined) throw fail('validation', `“${both}” is held out already.`);
  const partOf = labels.map((label) => (heldout.includes(label) ? 2 : validation.includes(label) ? 1 : 0));
  let part = 'part';
  while (table.columns.some((column) => column.name === part)) part += '_';
  const names = {
    kind: 'category' as const,
    name: part,
    levels: PART_NAMES,
    codes: codes.map((code) => partOf[code] ?? 0),
  };
  return {
    table: { rowCount: table.rowCount, columns: [...table.columns, names] },
    parts: PART_NAMES,
    plan: {
      method: 'column',
      column: part,
      seed: 0,
      parts: PART_NAMES.map((p) => (p === 'training' ? { name: p, rest: true } : { name: p, share: 0 })),
    },
  };
}

export const byColumn = splitter({
  key: 'column',
  title: 'by the values of a column',
  about: 'The rows with some values of a column are held out, those with some others are for validation.',
  isRandom: false,
  holdsOut: 'plan',
  parameters: {
    column: { type: 'column', label: 'the column' },
    heldout: { type: 'texts', label: 'values that are held out' },
    validation: { type: 'texts', label: 'values for validation', none: 'nothing' },
  },
  sentence: () =>
    'Hold out the rows whose {column} is {heldout}, take those where it is {validation} for validation, and keep the others for training.',
  methods: [column],
  ask: (table, values) => askByColumn(table, values),
});
