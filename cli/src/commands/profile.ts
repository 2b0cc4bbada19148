import {
  cellText,
  columnNamed,
  correlations,
  labelsOf,
  profileTableWith,
  suggestTask,
  type Column,
  type ColumnProfile,
  type ReadTable,
} from '@modest-sieve/core/data';
import { watchLeaks, watchEachColumn, watchRepeats, type Leak } from '@modest-sieve/core/audit';
import type { AddCommand, Run } from '../command.js';
import { inColumns, shown } from '../text.js';

interface Options {
  readonly target?: string;
  readonly sheet?: string;
  readonly missing?: readonly string[];
}

const run: Run<Options> = async (tools, [file = ''], { target, sheet, missing }) => {
  const { table, notes } = await tools.table(file, {
    ...(sheet === undefined ? {} : { sheet }),
    ...(missing === undefined ? {} : { missing: ['', ...missing] }),
  });
  // The threads summarise columns while this one looks at all of them together.
  const summarised = profileTableWith(table, notes, tools.workOn(table));
  const matrix = correlations(table);
  const repeats = watchRepeats(table);
  const profiles = await summarised;
  const leaks =
    target === undefined
      ? [...watchEachColumn(table, profiles), ...repeats]
      : leaksOf(table, target, profiles);
  const columns = profiles.map((profile, i) => columnJson(profile, table.columns[i]));
  return {
    json: { rows: table.rowCount, columns, correlations: matrix, leaks },
    text: [
      `${table.rowCount} rows, ${columns.length} columns`,
      inColumns(
        ['column', 'type', 'missing', 'distinct', 'mean', 'sd', 'min', 'median', 'max', 'most frequent'],
        columns.map((c) => [
          c.name,
          c.type,
          String(c.missing),
          String(c.distinct),
          ...[c.mean, c.sd, c.min, c.median, c.max].map((v) => (typeof v === 'string' ? v : shown(v))),
          c.top
            .slice(0, 3)
            .map(({ value, count }) => `${value} (${count})`)
            .join(', '),
        ]),
      ),
      ...profiles.filter((p) => p.note !== null).map((p) => `${p.name}: ${p.note}`),
      ...leaks.map((leak) => `! ${leak.message}`),
    ].join('\n'),
  };
};

function leaksOf(table: ReadTable['table'], target: string, profiles: readonly ColumnProfile[]): Leak[] {
  const column = columnNamed(table, target);
  const task = suggestTask(column);
  const positive = task === 'binary' ? (labelsOf(column).labels.at(-1) ?? null) : null;
  const roles = {
    target,
    task,
    positive,
    identifier: null,
    group: null,
    time: null,
    weight: null,
    withheld: [],
  };
  return watchLeaks(table, roles, profiles);
}

/** Figures of a column; those of times as they are written in the file, without a deviation. */
function columnJson(profile: ColumnProfile, column: Column | undefined) {
  const { name, kind, missing, distinct, summary, top, note } = profile;
  const figure = (value: number | undefined): number | string | null => {
    if (value === undefined) return null;
    return column?.kind === 'time' ? cellText({ ...column, values: Float64Array.of(value) }, 0) : value;
  };
  const isTime = kind === 'time';
  return {
    name,
    type: kind,
    missing,
    distinct,
    mean: figure(summary?.mean),
    sd: isTime ? null : (summary?.sd ?? null),
    min: figure(summary?.min),
    q1: figure(summary?.q1),
    median: figure(summary?.median),
    q3: figure(summary?.q3),
    max: figure(summary?.max),
    skewness: isTime ? null : (summary?.skewness ?? null),
    kurtosis: isTime ? null : (summary?.kurtosis ?? null),
    top,
    note,
  };
}

export const addProfile: AddCommand = (program, start) => {
  program
    .command('profile')
    .description('Summarise every column of a table, and look for what could give its answers away.')
    .argument('<file>', 'the table; - is CSV on standard input')
    .option('--target <column>', 'the column to be predicted, for a closer look')
    .option('--sheet <name>', 'the sheet of a workbook; the first where left out')
    .option('--missing <text...>', 'texts that stand for no value, in place of the usual ones')
    .action(start(run));
};
