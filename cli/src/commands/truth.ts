import { SieveError } from '@modest-sieve/core/foundation';
import { suggestTask, TASKS, type Column, type Table, type Task } from '@modest-sieve/core/data';
import { usage } from '../command.js';

export function taskOf(given: string | undefined, target: Column): Task {
  if (given === undefined) return suggestTask(target);
  const task = TASKS.find((name) => name === given);
  if (!task) throw usage(`--task is one of ${TASKS.join(', ')}.`, 'task');
  if (task === 'regression' && target.kind !== 'number')
    throw new SieveError('task', `${target.name} is not a column of numbers: it cannot be scored as one.`, {
      field: target.name,
    });
  return task;
}

export function positiveOf(given: string | undefined, labels: readonly string[]): string {
  if (labels.length !== 2)
    throw usage(`A binary task has two classes; the truth has ${labels.length}.`, 'task');
  if (given === undefined) return labels[1] ?? '';
  if (!labels.includes(given))
    throw usage(`--positive is one of ${labels.map((label) => `“${label}”`).join(' and ')}.`, 'positive');
  return given;
}

export function checkTruth(target: Column, table: Table, file: string): void {
  const texts = 'codes' in target ? target.codes : target.values;
  const missing = texts.findIndex((cell) => ('codes' in target ? cell < 0 : Number.isNaN(cell)));
  if (missing >= 0)
    throw new SieveError(
      'truth',
      `${file}, row ${missing + 1}: ${target.name} is missing, so it cannot be scored.`,
      {
        file,
        field: target.name,
      },
    );
  if (table.rowCount === 0) throw new SieveError('truth', `${file} has no rows.`, { file });
}

export function checkDistinct(identifiers: readonly string[], id: Column, file: string): void {
  // A dictionary with as many texts as there are rows has no text twice.
  if ('levels' in id && id.levels.length === identifiers.length) return;
  const cells = 'codes' in id ? id.codes : id.values;
  const sorted = cells.slice().sort();
  if (!sorted.some((cell, i) => i > 0 && cell === sorted[i - 1])) return;
  const seen = new Set<number>();
  cells.forEach((cell, row) => {
    if (seen.has(cell))
      throw new SieveError(
        'truth',
        `${file}, row ${row + 1}: ${id.name} ${identifiers[row]} is in an earlier row too.`,
        { file },
      );
    seen.add(cell);
  });
}

/** @throws SieveError `weights` with the row of a weight that is none */
export function weightsOf(column: Column, file: string): Float64Array {
  const fail = (message: string) => new SieveError('weights', message, { file, field: column.name });
  if (column.kind !== 'number')
    throw fail(`${file}: ${column.name} is not a column of numbers, so it holds no weights.`);
  const bad = column.values.findIndex((weight) => !(weight >= 0));
  if (bad >= 0) {
    const weight = column.values[bad];
    const what = Number.isNaN(weight) ? 'is missing' : `is ${weight}, below 0`;
    throw fail(`${file}, row ${bad + 1}: the weight ${column.name} ${what}.`);
  }
  if (!column.values.some((weight) => weight > 0))
    throw fail(`${file}: every weight in ${column.name} is 0.`);
  return column.values;
}
