import { byCodeUnit } from './order.js';

const WORD = /[\p{L}\p{N}]+/gu;

/** The words of a text: runs of letters and digits, in small letters. */
const wordsOf = (text: string): readonly string[] => text.toLowerCase().match(WORD) ?? [];

/**
 * The words that occur in the most rows of a coded column; of words in equally many rows the first by code unit.
 *
 * @param codes of rows, pointing into `levels`; −1 for a missing text
 */
export function commonWords(levels: readonly string[], codes: ArrayLike<number>, count: number): string[] {
  const rowsOfLevel = new Int32Array(levels.length);
  for (let i = 0; i < codes.length; i++) {
    const code = codes[i] ?? -1;
    if (code >= 0) rowsOfLevel[code] = (rowsOfLevel[code] ?? 0) + 1;
  }
  const rowsOf = new Map<string, number>();
  levels.forEach((text, level) => {
    for (const word of new Set(wordsOf(text)))
      rowsOf.set(word, (rowsOf.get(word) ?? 0) + (rowsOfLevel[level] ?? 0));
  });
  return [...rowsOf]
    .filter(([, rows]) => rows > 0)
    .sort(([a, rowsA], [b, rowsB]) => rowsB - rowsA || byCodeUnit(a, b))
    .slice(0, count)
    .map(([word]) => word);
}

/** How often a word occurs in each level. */
export const countsOfWord = (levels: readonly string[], word: string): number[] =>
  levels.map((text) => wordsOf(text).filter((other) => other === word).length);
