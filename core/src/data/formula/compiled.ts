/** A part of a formula, ready to be computed for a row: NaN, or null of a text, where it is missing. */
export type Compiled =
  | { readonly type: 'number' | 'time' | 'truth'; readonly of: (row: number) => number }
  | { readonly type: 'text'; readonly of: (row: number) => string | null; readonly literal?: string };

export type Type = Compiled['type'];
