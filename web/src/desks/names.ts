import { counted } from '@modest-sieve/core/foundation';
import type { Schemas } from '../api/client.js';
import { momentText } from '../kit/table/format.js';

/** What a split is known by: its name, or when it was saved. */
export const splitName = (
  { name, createdAt }: Pick<Schemas['SplitInfo'], 'name' | 'createdAt'>,
  timeZone: string,
): string => (name === '' ? `the split saved ${momentText(createdAt, timeZone)}` : name);

/** What folds are known by: their name, or how many there are and when they were saved. */
export const foldsName = (
  { name, folds, repeats, createdAt }: Schemas['FoldSetInfo'],
  timeZone: string,
): string =>
  name === ''
    ? `${counted(folds, 'fold')}${repeats > 1 ? ` ${repeats} times` : ''}, saved ${momentText(createdAt, timeZone)}`
    : name;
