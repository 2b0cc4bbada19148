import { ByteRuns } from '../../data/table/byte-runs.js';

const utf8 = new TextEncoder();

/**
 * Finds one of given texts, no two of them alike: identifiers of rows, or labels. Many programs read 0553 as a number and
 * write 553 or 553.0: a whole number is found by its value where only one of the texts has that.
 */
export class TextIndex {
  private readonly find: (bytes: Uint8Array, from: number, to: number) => number;
  private byNumber: ReadonlyMap<string, number> | null = null;

  constructor(private readonly texts: readonly string[]) {
    this.find = counting(texts) ?? named(texts);
  }

  /** The position of the text that is in UTF-8 between two positions, or −1. */
  ofBytes(bytes: Uint8Array, from: number, to: number): number {
    return this.find(bytes, from, to);
  }

  /** The position of a text, without the blanks around it where it is not found with them, or as a number; or −1. */
  ofText(text: string): number {
    const found = this.exactly(text);
    if (found >= 0) return found;
    const trimmed = text.trim();
    const place = this.exactly(trimmed);
    return place >= 0 ? place : this.numerically(trimmed);
  }

  private numerically(text: string): number {
    const number = wholeNumber(text);
    if (number === null) return -1;
    this.byNumber ??= placesByNumber(this.texts);
    return this.byNumber.get(number) ?? -1;
  }

  private exactly(text: string): number {
    const bytes = utf8.encode(text);
    return this.find(bytes, 0, bytes.length);
  }
}

/** The digits of a whole number without leading zeros and without a fraction of noughts; null for any other text. */
const wholeNumber = (text: string): string | null => /^0*(\d+)(?:\.0+)?$/.exec(text)?.[1] ?? null;

/** The places of whole numbers by their value; −1 where several texts have one. */
function placesByNumber(texts: readonly string[]): Map<string, number> {
  const places = new Map<string, number>();
  texts.forEach((text, place) => {
    const number = wholeNumber(text);
    if (number !== null) places.set(number, places.has(number) ? -1 : place);
  });
  return places;
}

/** A dictionary of texts by their bytes. */
function named(texts: readonly string[]) {
  // A line feed between texts keeps halves of characters apart.
  const joined = texts.join('\n');
  const bytes = utf8.encode(joined);
  const runs = new ByteRuns(bytes, texts.length);
  // Where every character is one byte, as in nearly all identifiers, texts need not be encoded to be measured.
  const isAscii = bytes.length === joined.length;
  let from = 0;
  for (const text of texts) {
    const to = from + (isAscii ? text.length : utf8.encode(text).length);
    runs.add(from, to);
    from = to + 1;
  }
  return (other: Uint8Array, start: number, end: number) => runs.find(other, start, end);
}

/** Texts that are whole numbers, from 0 up to this many times their count, are looked up in an array. */
const SPARSEST = 4;
const WHOLE = /^(?:0|[1-9]\d{0,8})$/;

/** An array by number for texts that count rows, as identifiers often do; null for any others. */
function counting(texts: readonly string[]) {
  let largest = 0;
  for (const text of texts) {
    if (!WHOLE.test(text)) return null;
    largest = Math.max(largest, Number(text));
  }
  if (largest > SPARSEST * texts.length) return null;
  const places = new Int32Array(largest + 1).fill(-1);
  texts.forEach((text, i) => {
    places[Number(text)] = i;
  });
  return (bytes: Uint8Array, from: number, to: number) => {
    if (to <= from || (bytes[from] === 0x30 && to > from + 1)) return -1;
    let number = 0;
    for (let i = from; i < to; i++) {
      const digit = (bytes[i] ?? 0) - 0x30;
      if (digit < 0 || digit > 9) return -1;
      number = 10 * number + digit;
      if (number > largest) return -1;
    }
    return places[number] ?? -1;
  };
}
