import { MOST_EXAMPLES, type Example } from '../../foundation/check.js';

/** Collects offending places of one kind: counts them all and keeps the first few. */
export class Offences {
  total = 0;
  readonly examples: Example[] = [];

  add(line: number | null, column: number | null, text: string): void {
    this.total++;
    if (this.examples.length < MOST_EXAMPLES) this.examples.push({ line, column, text });
  }
}

/** Everything that can be wrong with the records of a file of predictions, each kind counted apart. */
export const noOffences = () => ({
  missing: new Offences(),
  unknown: new Offences(),
  repeated: new Offences(),
  blank: new Offences(),
  foreign: new Offences(),
  malformed: new Offences(),
  outside: new Offences(),
  sums: new Offences(),
});

export type FileOffences = ReturnType<typeof noOffences>;
