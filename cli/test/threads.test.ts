import type { Helpers, PieceTask } from '@modest-sieve/core/foundation';
import { afterAll, describe, expect, it } from '@jest/globals';

interface Threads extends Helpers {
  stop(): Promise<void>;
}

/** The built class: its threads load the built program. */
const { Threads } = (await import(new URL('../dist/threads.js', import.meta.url).href)) as {
  Threads: new (size: number, seconds?: number, leastSeconds?: number) => Threads;
};

/** Trees grow in a thread, by the task's name; in this thread it is only noted that a piece was done. */
function noted(here: number[]): PieceTask<object, unknown> {
  return {
    name: 'grow-trees',
    run: () => {
      here.push(1);
      return 'here';
    },
  };
}

const trees = (rowCount: number) => ({
  features: [{ kind: 'number', name: 'x', values: Float64Array.from({ length: rowCount }, (_, i) => i) }],
  rowCount,
  target: { kind: 'numbers', values: new Float64Array(rowCount).map((_, i) => i % 3) },
  weights: null,
  values: { features_per_split: 0, rows_per_leaf: 1, depth: 4, rows: 'all', share: 100, thresholds: 'best' },
  seed: 1,
  from: 0,
  to: 2,
});

describe('threads that a caller waits for', () => {
  const all: Threads[] = [];
  const threads = (leastSeconds?: number) => {
    const made = new Threads(3, 60, leastSeconds);
    all.push(made);
    return made;
  };
  afterAll(() => Promise.all(all.map((one) => one.stop())));

  it('do all pieces but the first, and answer in order', () => {
    const here: number[] = [];
    const [first, second, third] = threads().runTogether(noted(here), [trees(9), trees(9), trees(4)]);
    expect(here).toEqual([1]);
    expect(first).toBe('here');
    expect(second).toMatchObject({ trees: [{}, {}] });
    expect(third).toMatchObject({ gains: [{ length: 1 }, { length: 1 }] });
  });

  it('are used again', () => {
    const two = threads();
    for (let round = 0; round < 3; round++)
      expect(two.runTogether(noted([]), [trees(4), trees(4)])).toMatchObject(['here', { trees: [{}, {}] }]);
  });

  it('do a piece here whose thread has died', () => {
    const here: number[] = [];
    const task = { ...noted(here), name: 'nobody knows it' };
    expect(threads(0.3).runTogether(task, [{}, {}])).toEqual(['here', 'here']);
    expect(here).toEqual([1, 1]);
  });

  it('pass on what a piece refuses', () => {
    const refused: PieceTask<object, unknown> = {
      name: 'readWhole',
      run: () => 'here',
    };
    const broken = { bytes: new Uint8Array(3), options: { file: 'a.xlsx' } };
    expect(() => threads().runTogether(refused, [{}, broken])).toThrow('a.xlsx is no workbook');
  });
});
