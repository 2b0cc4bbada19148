/** Where in the material an error was found; every part is optional, lines and columns count from 1. */
export interface Place {
  readonly file?: string;
  readonly line?: number;
  /** Position of the field within its line, from 1. */
  readonly column?: number;
  /** Name of a table column or of a setting. */
  readonly field?: string;
  /** What could be meant, where one of several has to be chosen. */
  readonly choices?: readonly string[];
}

/** An error written for the person who reads it: a stable code, one sentence, and the place. */
export class SieveError extends Error {
  readonly code: string;
  readonly place: Place;

  constructor(code: string, message: string, place: Place = {}) {
    super(message);
    this.name = 'SieveError';
    this.code = code;
    this.place = place;
  }
}
