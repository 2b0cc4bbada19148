import { afterAll, describe, expect, it } from '@jest/globals';
import { seededRandom } from '@modest-sieve/core/foundation';
import { encodeColumn, type Column, type Roles } from '@modest-sieve/core/data';
import { WORKER } from '../src/assembly/assembly.module.js';
import { Compute, within } from '../src/platform/compute/compute.service.js';
import type { StoredTable } from '../src/store/stored-table.js';
import { readConfig } from '../src/platform/config/config.js';
import { SPLIT_TASKS } from '../src/splits/split.tasks.js';
import { LOOK_TASKS } from '../src/datasets/look.tasks.js';
import { TABLE_TASKS } from '../src/datasets/table.tasks.js';

/** What worker threads are given, and when they are ended. */

const compute = new Compute(readConfig(), WORKER);
afterAll(() => compute.onApplicationShutdown());

const N = 60_000;
const random = seededRandom(1, 'compute');
const columns: Column[] = [
  ...Array.from({ length: 8 }, (_, i) => ({
    kind: 'number' as const,
    name: `x${i}`,
    values: Float64Array.from({ length: N }, () => random.unit()),
  })),
  {
    kind: 'category',
    name: 'y',
    levels: ['no', 'yes'],
    codes: Int32Array.from({ length: N }, () => random.below(2)),
  },
];
const stored = (): StoredTable => ({
  firstRow: 0,
  rowCount: N,
  columns: columns.map((column) => ({ name: column.name, chunks: encodeColumn(column) })),
});
const roles: Roles = {
  target: 'y',
  task: 'binary',
  positive: 'yes',
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
const plan = {
  kind: 'draw',
  values: { sized: 'percent', training: 80, validation: 0, heldout: 20, stratify: '', group: '', seed: 1 },
};
/** Twenty seeds of a table of this size take longer than anybody here waits. */
const slow = (limit: Parameters<Compute['run']>[2]) =>
  compute.run(SPLIT_TASKS.seedSensitivity, { stored: stored(), roles, plan }, limit);
const quick = (table: StoredTable) => compute.run(LOOK_TASKS.rows, { stored: table, from: 0, to: 1 }, 60);

describe('a thread', () => {
  it('is handed the memory of a table, which the caller no longer has', async () => {
    const table = stored();
    const { rows } = await quick(table);
    expect(rows[0]).toHaveLength(9);
    expect(table.columns.map(({ chunks }) => chunks[0]?.byteLength)).toEqual(Array(9).fill(0));
  });

  it('hands back memory of its own: what it prepared can be read', async () => {
    const { columns: made, rowCount } = await compute.run(
      TABLE_TASKS.prepare,
      { stored: stored(), steps: [{ kind: 'shuffle', values: { seed: 1 } }], roles },
      60,
    );
    expect(rowCount).toBe(N);
    const { rows } = await quick({ firstRow: 0, rowCount: N, columns: made });
    expect(rows[0]).toHaveLength(9);
  });

  it('is ended when its time is over, with a message to the caller', async () => {
    await expect(slow(0.2)).rejects.toMatchObject({
      code: 'too-long',
      message: 'This took longer than 0.2 seconds and was stopped.',
    });
  });

  it('is ended when the caller has gone, and another takes its place', async () => {
    const caller = { gone: AbortSignal.abort() };
    await expect(slow(within(caller, 600))).rejects.toMatchObject({ code: 'too-long' });
    expect((await quick(stored())).rows).toHaveLength(1);
  });

  it('is not ended at once: what takes a moment is done, even for somebody who has gone', async () => {
    const caller = { gone: AbortSignal.abort() };
    const answer = await compute.run(
      LOOK_TASKS.rows,
      { stored: stored(), from: 0, to: 3 },
      within(caller, 60),
    );
    expect(answer.numbers).toEqual([1, 2, 3]);
  });
});
