import { tableOf } from '../../../test/files.js';
import { draw } from '../../../test/plans.js';
import type { Table } from '../../data/table/table.js';
import { splitRows } from './split.js';

export const partsBy = (table: Table, over: Parameters<typeof draw>[0] = {}) =>
  splitRows(table, plan(over)).parts;

/** A table with a class and a group column of the given codes. */
export const coded = (rows: readonly (readonly [number, number])[]) =>
  tableOf(`id,class,group\n${rows.map(([c, g], i) => `r${i},c${c},g${g}`).join('\n')}\n`);

export const plan = (over: Parameters<typeof draw>[0] = {}) =>
  draw({ shares: { training: 70, validation: 15, heldout: 15 }, seed: 2718, ...over });
