/**
 * Parts the rows of a node: those of the low child come before those of the high one, either in their order.
 *
 * Each loop is a function of its own: a function that is compiled in the middle of its first loop knows nothing of a later one
 * (V8, on-stack replacement), and is thrown away each time that it gets there.
 */
export class RowParter {
  /** 1 for each place of the members whose row goes to the high child; the caller fills it. */
  readonly side: Uint8Array;
  private readonly buffer: Int32Array;

  constructor(rowCount: number) {
    this.side = new Uint8Array(rowCount);
    this.buffer = new Int32Array(rowCount);
  }

  /** @returns where the rows of the high child begin */
  part(members: Int32Array, from: number, to: number): number {
    const middle = to - countHigh(this.side, from, to);
    spread(members, this.side, this.buffer, from, middle, to);
    copy(this.buffer, members, from, to);
    return middle;
  }
}

function countHigh(side: Uint8Array, from: number, to: number): number {
  let high = 0;
  for (let i = from; i < to; i++) high += side[i] ?? 0;
  return high;
}

function spread(
  members: Int32Array,
  side: Uint8Array,
  buffer: Int32Array,
  from: number,
  middle: number,
  to: number,
): void {
  let low = from;
  let high = middle;
  for (let i = from; i < to; i++) {
    const row = members[i] ?? 0;
    if (side[i] === 1) buffer[high++] = row;
    else buffer[low++] = row;
  }
}

function copy(from: Int32Array, to: Int32Array, start: number, end: number): void {
  for (let i = start; i < end; i++) to[i] = from[i] ?? 0;
}
