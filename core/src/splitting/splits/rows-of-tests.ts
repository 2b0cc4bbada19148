import { tableOf } from '../../../test/files.js';
import type { PartitionPlan } from './splitter.js';
import { parseParts } from '../parts/parts.js';

export type Row = readonly [number, number];

export const tableFor = (rows: readonly Row[]) =>
  tableOf(`id,class,day\n${rows.map(([c, d], i) => `r${i},c${c},${d}`).join('\n')}\n`);

export const plan = (over: Partial<PartitionPlan>): PartitionPlan => ({
  method: 'random',
  parts: parseParts('train=0.8,heldout=0.2'),
  seed: 0,
  ...over,
});
