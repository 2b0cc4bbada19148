import { assignmentCsv, formatOf, rowNames, selectRows, type Table } from '@modest-sieve/core/data';
import {
  parseParts,
  partition,
  SPLIT_METHODS,
  SPLIT_SETTINGS,
  type Partition,
  type PartitionPlan,
} from '@modest-sieve/core/splitting';
import { qualityChecks, splitQuality } from '@modest-sieve/core/audit';
import { join } from 'node:path';
import { numberOption, usage, type AddCommand, type OutputFile, type Run } from '../command.js';
import { addSettings, settingsOf } from '../settings.js';
import { inColumns } from '../text.js';
import { qualityOptions } from './quality-options.js';
import { qualityText } from './quality-text.js';

interface Options {
  readonly parts: string;
  readonly stratify?: string;
  readonly group?: string;
  readonly time?: string;
  readonly id?: string;
  readonly target?: string;
  readonly unlabelled?: string;
  readonly seed: number;
  readonly out?: string;
  readonly format: string;
  readonly assign?: string;
}

const run: Run<Options> = async (tools, [file = ''], options) => {
  const plan = planOf(options);
  const { table } = await tools.table(file);
  const names = rowNames(table, options.id);
  const split = partition(table, plan);
  const target = options.target ?? options.stratify;
  const isRandom = SPLIT_METHODS.some(({ name, isRandom: random }) => name === plan.method && random);
  const own = qualityOptions(table, target, options);
  // The column that names the parts is no feature of the rows.
  const named = plan.method === 'column' && plan.column !== undefined ? [plan.column] : [];
  const quality = splitQuality(table, split, {
    ...own,
    withheld: [...(own.withheld ?? []), ...named],
    ...(isRandom
      ? { redraw: (seed) => partition(table, { ...plan, seed, salt: `${plan.salt ?? ''}#${seed}` }).parts }
      : {}),
  });
  const checks = qualityChecks(quality, target ?? null, false);
  const parts = split.names.map((name) => {
    const summary = quality.parts.find((part) => part.name === name);
    return {
      name,
      rows: summary?.rows ?? 0,
      classes: Object.fromEntries((summary?.classes ?? []).map(({ label, rows }) => [label, rows])),
    };
  });
  const files = await filesOf(table, split, options);
  if (options.assign !== undefined) {
    const records = Array.from(split.parts, (part, row) => [row, split.names[part] ?? null] as const);
    files.push({
      path: options.assign,
      content: assignmentCsv(
        names,
        ['part'],
        records.filter(([, part]) => part !== null),
      ),
    });
  }
  const leftOut = split.parts.reduce((n, part) => (part < 0 ? n + 1 : n), 0);
  return {
    json: { method: split.method, seed: plan.seed, parts, left_out: leftOut, quality, checks },
    text: [
      `${split.method}, seed ${plan.seed}${leftOut > 0 ? `; ${leftOut} rows left out` : ''}`,
      inColumns(
        ['part', 'rows', 'classes'],
        parts.map(({ name, rows, classes }) => [
          name,
          String(rows),
          Object.entries(classes)
            .slice(0, 10)
            .map(([label, n]) => `${label} ${n}`)
            .join(', '),
        ]),
      ),
      qualityText(checks),
    ].join('\n'),
    files,
  };
};

/** The plan of a line; the method follows from the settings unless it is named. */
function planOf(options: Options): PartitionPlan {
  const settings = settingsOf({ ...options }, SPLIT_METHODS, SPLIT_SETTINGS);
  if (options.unlabelled !== undefined && options.target === undefined)
    throw usage(
      '--unlabelled names a part for rows without a value in --target, which is not given.',
      'unlabelled',
    );
  return {
    ...settings,
    parts: parseParts(options.parts),
    seed: options.seed,
    ...(options.unlabelled === undefined
      ? {}
      : { unlabelled: { name: options.unlabelled, target: options.target ?? '' } }),
  };
}

async function filesOf(table: Table, split: Partition, { out, format }: Options): Promise<OutputFile[]> {
  if (out === undefined) return [];
  const write = formatOf(`x.${format}`)?.write;
  if (!write)
    throw usage(`Parts cannot be written as “${format}”: csv, tsv, json and parquet can be.`, 'format');
  const files: OutputFile[] = [];
  for (const [part, name] of split.names.entries()) {
    const rows = Int32Array.from(split.parts.keys()).filter((row) => split.parts[row] === part);
    files.push({ path: join(out, `${name}.${format}`), content: await write(selectRows(table, rows)) });
  }
  return files;
}

export const addSplit: AddCommand = (program, start) => {
  const command = program
    .command('split')
    .description('Split the rows of a table, and judge how good the split is.')
    .argument('<file>', 'the table; - is CSV on standard input')
    .requiredOption('--parts <parts>', 'for instance train=0.8,heldout=0.2, or train=rest,heldout=200');
  addSettings(command, SPLIT_METHODS, SPLIT_SETTINGS)
    .option('--target <column>', 'the column to be predicted, for counts of its classes')
    .option('--unlabelled <name>', 'a further part for rows without a value in --target')
    .requiredOption('--seed <n>', 'the same seed gives the same split', numberOption('seed'))
    .option('--out <folder>', 'one file for each part goes there')
    .option('--format <name>', 'of the parts: csv, tsv, json or parquet', 'csv')
    .option('--assign <file>', 'CSV with the part of each row')
    .action(start(run));
};
