/** Runs of bytes, no two alike, each under a number from 0 on and found by its content. */
export class ByteRuns {
  /** Open addressing: a slot holds the number of a run and 1, so that 0 is an empty one. */
  private readonly slots: Int32Array;
  /** Start and end of each run, side by side: they are looked at together. */
  private readonly bounds: Int32Array;
  private count = 0;

  /**
   * @param bytes that hold the runs
   * @param most runs that are added
   */
  constructor(
    private readonly bytes: Uint8Array,
    most: number,
  ) {
    this.slots = new Int32Array(2 ** Math.ceil(Math.log2(2 * most + 2)));
    this.bounds = new Int32Array(2 * most);
  }

  get size(): number {
    return this.count;
  }

  /** The number of the run that holds the bytes from one position to before another; a new one where there is none. */
  add(from: number, to: number): number {
    const slot = this.slotOf(this.bytes, from, to);
    const run = (this.slots[slot] ?? 0) - 1;
    if (run >= 0) return run;
    this.bounds[2 * this.count] = from;
    this.bounds[2 * this.count + 1] = to;
    this.slots[slot] = this.count + 1;
    return this.count++;
  }

  /** The number of the run that holds what is between two positions of other bytes, or −1. */
  find(other: Uint8Array, from: number, to: number): number {
    return (this.slots[this.slotOf(other, from, to)] ?? 0) - 1;
  }

  /** The slot of the run that is alike, or the empty one where it would be. */
  private slotOf(other: Uint8Array, from: number, to: number): number {
    const { slots, bytes, bounds } = this;
    const mask = slots.length - 1;
    let slot = hashOf(other, from, to) & mask;
    for (;;) {
      const run = (slots[slot] ?? 0) - 1;
      if (run < 0 || sameBytes(bytes, bounds[2 * run] ?? 0, bounds[2 * run + 1] ?? 0, other, from, to))
        return slot;
      slot = (slot + 1) & mask;
    }
  }
}

/** FNV-1a over bytes (draft-eastlake-fnv). */
function hashOf(bytes: Uint8Array, from: number, to: number): number {
  let hash = 0x811c9dc5;
  for (let i = from; i < to; i++) hash = Math.imul(hash ^ (bytes[i] ?? 0), 0x01000193);
  return hash ^ (hash >>> 15);
}

function sameBytes(
  a: Uint8Array,
  aFrom: number,
  aTo: number,
  b: Uint8Array,
  bFrom: number,
  bTo: number,
): boolean {
  const length = aTo - aFrom;
  if (length !== bTo - bFrom) return false;
  for (let i = 0; i < length; i++) if (a[aFrom + i] !== b[bFrom + i]) return false;
  return true;
}
