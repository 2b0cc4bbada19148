import { tableOf } from '../../../test/files.js';

export const tableFor = (rows: readonly Row[]) =>
  tableOf(`id,class,group,day\n${rows.map(([c, g, d], i) => `r${i},c${c},g${g},${d}`).join('\n')}\n`);

export type Row = readonly [number, number, number];
