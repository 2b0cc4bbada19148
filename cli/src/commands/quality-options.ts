import { columnNamed, suggestTask, type Table } from '@modest-sieve/core/data';
import type { QualityOptions } from '@modest-sieve/core/audit';

/** What the options of a line say about the columns of a table. */
interface Named {
  readonly group?: string;
  readonly time?: string;
  readonly id?: string;
}

/** How the quality of a split is to be judged. @throws SieveError `no-such-column` */
export function qualityOptions(
  table: Table,
  target: string | undefined,
  { group, time, id }: Named,
): QualityOptions {
  return {
    ...(target === undefined
      ? {}
      : { target, numeric: suggestTask(columnNamed(table, target)) === 'regression' }),
    ...(group === undefined ? {} : { group }),
    ...(time === undefined ? {} : { time }),
    ...(id === undefined ? {} : { identifier: id }),
  };
}
