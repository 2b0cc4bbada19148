import { SieveError } from '../../foundation/errors.js';
import { counted } from '../../foundation/numbers.js';
import type { ReadOptions } from './read-table.js';

/**
 * Which of the tables in one file is read: the one that is asked for, or the first.
 *
 * @param what what such a table is called, as "sheet"
 * @returns its place among the names, and what should be known where it was not asked for
 * @throws SieveError `no-such-sheet`, and `choose-sheet` with the names where one must be chosen
 */
export function chosenPart(
  names: readonly string[],
  what: string,
  { file, sheet, mustChoose }: ReadOptions,
): { readonly place: number; readonly remarks: string[] } {
  const listed = names.map((name) => `“${name}”`).join(', ');
  if (sheet === undefined && names.length > 1 && mustChoose)
    throw new SieveError('choose-sheet', `${file} has ${counted(names.length, what)}: which one is it?`, {
      file,
      choices: names,
    });
  const place = sheet === undefined ? 0 : names.indexOf(sheet);
  if (place < 0)
    throw new SieveError('no-such-sheet', `${file} has no ${what} “${sheet}”; it has ${listed}.`, { file });
  const remark = `${file} has ${counted(names.length, what)}; “${names[place] ?? ''}” was read.`;
  return { place, remarks: names.length > 1 && sheet === undefined ? [remark] : [] };
}
