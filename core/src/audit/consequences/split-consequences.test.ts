import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { draw, IRIS_ROLES } from '../../../test/plans.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { splitConsequences } from './split-consequences.js';
import { splitRows } from '../../splitting/splits/split.js';
import { usableRows } from '../../splitting/parts/usable.js';

function consequences(table: Table, roles: Roles, over: Parameters<typeof draw>[0] = {}) {
  const used = usableRows(table, roles, 'drop');
  return splitConsequences(table, roles, used, splitRows(table, draw(over), used.usable));
}
const outcome = (c: ReturnType<typeof consequences>, id: string) =>
  c.checks.find((check) => check.id === id)?.outcome;

describe('what follows from a split', () => {
  const random = consequences(iris(), IRIS_ROLES);

  it('counts every usable row once, by part and class', () => {
    // One of iris's 150 rows repeats another.
    expect(random.repeated).toBe(1);
    expect(random.parts.map((part) => part.rows)).toEqual([119, 30]);
    for (const part of random.parts) expect(part.classes.reduce((n, c) => n + c.rows, 0)).toBe(part.rows);
    expect(random.map.reduce((n, cell) => n + cell.rows, 0)).toBe(149);
  });

  it('finds the shares nearer each other when the split is stratified', () => {
    const stratified = consequences(iris(), IRIS_ROLES, { stratify: 'target' });
    expect(outcome(stratified, 'shares')).toBe('holds');
  });

  it('summarises a number by its mean and by fifths', () => {
    const roles: Roles = { ...IRIS_ROLES, task: 'regression' };
    const { parts, labels } = consequences(diabetes(), roles);
    expect(labels).toHaveLength(5);
    expect(parts[0]?.targetMean).toBeGreaterThan(140);
    expect(parts[0]?.targetMean).toBeLessThan(165);
  });

  it('measures how far features differ', () => {
    const sorted = consequences(
      tableOf(`x,y\n${Array.from({ length: 100 }, (_, i) => `${i},${i % 2}`).join('\n')}\n`),
      {
        ...IRIS_ROLES,
        target: 'y',
        task: 'binary',
        positive: '1',
      },
    );
    expect(sorted.drift[0]).toMatchObject({ column: 'x', measure: 'standardised difference' });
    expect(sorted.drift[0]?.value).toBeLessThan(1);
  });
});

describe('what a split is warned of', () => {
  const rows = Array.from(
    { length: 60 },
    (_, i) => `${i},g${i % 6},${(i * 17) % 10},${i % 2 ? 'yes' : 'no'},${i % 2 ? 5 + (i % 3) : i % 3}`,
  );
  const table = tableOf(`id,group,x,y,after\n${rows.join('\n')}\n`);
  const roles: Roles = {
    target: 'y',
    task: 'binary',
    positive: 'yes',
    identifier: 'id',
    group: 'group',
    time: null,
    weight: null,
    withheld: [],
  };

  it('groups that are split across parts, and how many a split by rows would split', () => {
    expect(outcome(consequences(table, roles), 'groups')).toBe('fails');
    const kept = consequences(table, roles, { group: 'group' });
    expect(outcome(kept, 'groups')).toBe('holds');
    expect(kept.checks.find((c) => c.id === 'groups')?.measured).toMatch(/would split (all 6|5)$/);
  });

  it('rows with the same features in two parts', () => {
    const twins = tableOf(
      `x,y\n${Array.from({ length: 40 }, (_, i) => `${i % 2},${i % 2 === i % 4 ? 'a' : 'b'}`).join('\n')}\n`,
    );
    const few: Roles = { ...IRIS_ROLES, target: 'y', task: 'binary', positive: 'a' };
    const used = { usable: new Uint8Array(40).fill(1), unlabelled: 0, repeated: 0 };
    const found = splitConsequences(twins, few, used, splitRows(twins, draw()));
    expect(outcome(found, 'twins')).toBe('unsure');
  });
});
