import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { indices } from '../../foundation/numbers.js';
import { evidenceOf } from './evidence.js';
import { largestErrors } from './largest-errors.js';

const table = tableOf(`name,y\n${Array.from({ length: 30 }, (_, i) => `r${i},${i}`).join('\n')}\n`);
const judged = (predicted: (i: number) => number, rows = 30) =>
  ({
    kind: 'numbers',
    data: {
      truth: Float64Array.from({ length: rows }, (_, i) => i),
      predicted: Float64Array.from({ length: rows }, (_, i) => predicted(i)),
      weights: null,
      features: null,
    },
  }) as const;

describe('the rows with the largest errors', () => {
  const of = (predicted: (i: number) => number) =>
    largestErrors({ table, judged: judged(predicted), rows: indices(30), identifier: 'name' });

  it('are named, the largest first, and none that has no error', () => {
    const found = of((i) => (i === 4 ? 9 : i === 7 ? -3 : i));
    expect(found.map(({ name, error }) => [name, error])).toEqual([
      ['r7', -10],
      ['r4', 5],
    ]);
    expect(of((i) => i)).toEqual([]);
  });

  it('are twenty at most', () => {
    expect(of((i) => i + 1)).toHaveLength(20);
  });
});

describe('evidence by subgroup', () => {
  it('of very many subgroups has those with most rows, and says how many are left out', () => {
    const count = 2100;
    const many = tableOf(
      `group,y\n${Array.from({ length: count }, (_, i) => `${i < 100 ? 'large' : `g${i % 1500}`},${i}`).join('\n')}\n`,
    );
    const { groups, groupsLeftOut } = evidenceOf({
      ...{
        table: many,
        task: 'regression',
        metric: 'rmse',
        judged: judged((i) => i + 1, count),
        rows: indices(count),
      },
      ...{ design: () => ({ rowCount: count, terms: [], columns: [] }), by: 'group' },
      ...{ isLinearFit: false, identifier: null, group: null },
    });
    expect(groups).toHaveLength(1000);
    expect(groups.find(({ value }) => value === 'large')?.rows).toBe(100);
    const names = new Set(Array.from({ length: count }, (_, i) => (i < 100 ? 'large' : `g${i % 1500}`)));
    expect(groups.length + groupsLeftOut).toBe(names.size);
  });

  it('has the residuals of each subgroup as a box, and none of rows without one', () => {
    const rows = Array.from({ length: 12 }, (_, i) => `${['a', 'b', ''][i % 3]},${i}`);
    const few = tableOf(`group,y\n${rows.join('\n')}\n`);
    const evidence = (by: string | null) =>
      evidenceOf({
        ...{
          table: few,
          task: 'regression',
          metric: 'rmse',
          judged: judged((i) => i * i, 12),
          rows: indices(12),
        },
        ...{ design: () => ({ rowCount: 12, terms: [], columns: [] }), by },
        ...{ isLinearFit: false, identifier: null, group: null },
      }).residualBoxes;
    expect(evidence(null)).toBeNull();
    // Of “a” the rows 0, 3, 6, 9 and of “b” 1, 4, 7, 10; a residual is i less i².
    const boxes = evidence('group')?.boxes ?? [];
    expect(boxes.map(({ label, rows: n }) => [label, n])).toEqual([
      ['a', 4],
      ['b', 4],
    ]);
    expect(boxes[0]?.median).toBe((3 - 9 + 6 - 36) / 2);
    expect(boxes[1]?.median).toBe((4 - 16 + 7 - 49) / 2);
  });
});
