import { check, count, counted, SieveError, type Check, type Example } from '@modest-sieve/core/foundation';
import { cellText, type Column, type Table, rowNames } from '@modest-sieve/core/data';
import { parseParts, type Partition, type PartSize } from '@modest-sieve/core/splitting';
import { qualityChecks, splitQuality } from '@modest-sieve/core/audit';
import type { AddCommand, Run } from '../command.js';
import { qualityOptions } from './quality-options.js';
import { qualityText } from './quality-text.js';

interface Options {
  readonly id?: string;
  readonly parts?: string;
  readonly stratify?: string;
  readonly group?: string;
  readonly time?: string;
}

const run: Run<Options> = async (tools, [file = '', assignment = ''], options) => {
  const { table } = await tools.table(file);
  const { table: assigned } = await tools.table(assignment);
  const { split, checks: rows } = readAssignment(table, assigned, assignment, options.id);
  const sized = options.parts === undefined ? [] : sizeChecks(split, parseParts(options.parts));
  const target = options.stratify;
  const quality = splitQuality(table, split, qualityOptions(table, target, options));
  const checks = [...rows, ...sized, ...qualityChecks(quality, target ?? null, target !== undefined)];
  const holds = checks.every((c) => c.outcome !== 'fails');
  return {
    json: { checks, holds, quality },
    text: `${qualityText(checks)}\n${holds ? 'Holds.' : 'Does not hold.'}`,
    holds,
  };
};

/** The part of each row of the table, and whether every row has exactly one. */
function readAssignment(
  table: Table,
  assigned: Table,
  file: string,
  id: string | undefined,
): { split: Partition; checks: Check[] } {
  const header = id ?? 'row';
  const column = (name: string): Column => {
    const found = assigned.columns.find((c) => c.name === name);
    if (found) return found;
    const has = assigned.columns.map((c) => c.name).join(', ');
    throw new SieveError(
      'assignment',
      `${file}, line 1: there is no column “${name}”; the columns are ${has}.`,
      {
        file,
        line: 1,
      },
    );
  };
  const keys = column(header);
  const parts = column('part');
  const rowOf = new Map<string, number>();
  const names = rowNames(table, id);
  for (let row = 0; row < table.rowCount; row++) rowOf.set(names.name(row), row);
  const partNames: string[] = [];
  const codes = new Int8Array(table.rowCount).fill(-1);
  const repeated: Example[] = [];
  const unknown: Example[] = [];
  const example = (line: number, text: string): Example => ({
    line,
    column: null,
    text: `line ${line}: ${text}`,
  });
  for (let i = 0; i < assigned.rowCount; i++) {
    const line = i + 2;
    const name = cellText(keys, i) ?? '';
    const part = cellText(parts, i);
    const row = rowOf.get(name);
    if (row === undefined) unknown.push(example(line, `${header} “${name}” is not in the table`));
    else if ((codes[row] ?? -1) >= 0)
      repeated.push(example(line, `${header} ${name} is on an earlier line too`));
    else if (part !== null) {
      if (!partNames.includes(part)) partNames.push(part);
      if (partNames.length > 100)
        throw new SieveError('assignment', `${file}, line ${line}: more than 100 parts.`, { file, line });
      codes[row] = partNames.indexOf(part);
    }
  }
  if (partNames.length < 2)
    throw new SieveError('assignment', `${file} names fewer than two parts.`, { file });
  const missing = Array.from(codes.keys()).filter((row) => (codes[row] ?? -1) < 0);
  const found = (id_: string, places: readonly Example[], holds: string, fails: string) =>
    check(id_, places.length === 0 ? 'holds' : 'fails', places.length === 0 ? holds : fails, {
      measured: count(places.length),
      expected: 'none',
      examples: places,
    });
  return {
    split: { method: 'given', names: partNames, parts: codes },
    checks: [
      found('unknown', unknown, 'Every line names a row of the table', 'Some lines name no row of the table'),
      found('once', repeated, 'No row is in two parts', 'Some rows are in the file more than once'),
      check(
        'complete',
        missing.length === 0 ? 'holds' : 'unsure',
        missing.length === 0 ? 'Every row is in a part' : `${counted(missing.length, 'row')} in no part`,
        {
          measured: count(missing.length),
          expected: 'none, unless rows were left out on purpose',
          examples: missing.map((row) => ({
            line: null,
            column: null,
            text: `${header} ${names.name(row)}`,
          })),
        },
      ),
    ],
  };
}

/** Points by which a part may miss its share where whole groups are kept together. */
const NEAR = 0.05;

/** Whether each part has the size that was asked for. */
function sizeChecks(split: Partition, asked: readonly PartSize[]): Check[] {
  const n = split.parts.reduce((total, part) => (part >= 0 ? total + 1 : total), 0);
  return asked.map((part) => {
    const code = split.names.indexOf(part.name);
    if (code < 0) return check('parts', 'fails', `There is no part “${part.name}”`, { expected: part.name });
    const rows = split.parts.reduce((total, own) => (own === code ? total + 1 : total), 0);
    if ('rest' in part) return check('parts', 'holds', `${part.name} has ${counted(rows, 'row')}`);
    const due = 'rows' in part ? part.rows : part.share * n;
    const off = Math.abs(rows - due);
    const outcome = off < 1 ? 'holds' : off <= NEAR * n ? 'unsure' : 'fails';
    return check('parts', outcome, `${part.name} has ${counted(rows, 'row')}`, {
      measured: `${((100 * rows) / n).toFixed(1)} %`,
      expected: `${Number(due.toFixed(1))} rows`,
    });
  });
}

export const addCheckSplit: AddCommand = (program, start) => {
  program
    .command('check-split')
    .description('Check whether a split is what was asked for.')
    .argument('<file>', 'the table')
    .argument('<assignment>', 'CSV with the columns row (from 0), or the identifier, and part')
    .option('--id <column>', 'names the rows in both files')
    .option('--parts <parts>', 'the sizes that were asked for')
    .option('--stratify <column>', 'its values should have equal shares in every part')
    .option('--group <column>', 'the rows of one value should stay together')
    .option('--time <column>', 'the last part should lie after the others in its order')
    .action(start(run));
};
