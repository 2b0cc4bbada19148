import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { draw, IRIS_ROLES } from '../../../test/plans.js';
import { secretOf } from '../../../test/secrets.js';
import { fit } from '../../../test/models.js';
import { seededRandom } from '../../foundation/random/random.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import type { SplitPlan } from '../../splitting/splits/splitter.js';
import { splitRows } from '../../splitting/splits/split.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { completeDivision } from './division.js';
import { FEEDBACK, FINAL } from '../material/held-out.js';

const roles: Roles = { ...IRIS_ROLES, target: 'y', task: 'binary', positive: 'p', identifier: 'id' };
const divisionOf = (
  table: Table,
  own: Roles,
  plan: SplitPlan,
  secret = secretOf(1),
  reserve?: Uint8Array,
) => {
  const { parts } = splitRows(table, plan);
  const material = { table, roles: own, plan, parts, references: [], secret };
  return { parts, division: completeDivision(material, reserve ?? new Uint8Array(table.rowCount)) };
};
const rowsFor = (division: Uint8Array, purpose: number) =>
  Array.from(division.keys()).filter((row) => division[row] === purpose);

describe('the division of held-out rows into feedback and final rows', () => {
  it('halves each class, and the fifths of a number', () => {
    const { division } = divisionOf(iris(), IRIS_ROLES, draw());
    for (let species = 0; species < 3; species++) {
      const of = (purpose: number) =>
        rowsFor(division, purpose).filter((row) => Math.floor(row / 50) === species).length;
      expect(Math.abs(of(FEEDBACK) - of(FINAL))).toBeLessThanOrEqual(1);
    }
    const table = diabetes();
    const target = table.columns.find(({ name }) => name === 'target');
    const own: Roles = { ...IRIS_ROLES, target: 'target', task: 'regression' };
    const { division: numbers } = divisionOf(table, own, draw());
    const mean = (purpose: number) => {
      const rows = rowsFor(numbers, purpose);
      return (
        rows.reduce((sum, row) => sum + (target?.kind === 'number' ? (target.values[row] ?? 0) : 0), 0) /
        rows.length
      );
    };
    expect(Math.abs(mean(FEEDBACK) - mean(FINAL))).toBeLessThan(5);
  });

  it('says what a row is for once and for all: a second release divides only rows that are held out for the first time', () => {
    const first = divisionOf(iris(), IRIS_ROLES, draw({ seed: 1 })).division;
    const second = divisionOf(iris(), IRIS_ROLES, draw({ seed: 2 }), secretOf(9), first);
    let again = 0;
    second.parts.forEach((part, row) => {
      if (part !== 2 || !first[row]) return;
      again++;
      expect(second.division[row]).toBe(first[row]);
    });
    expect(again).toBeGreaterThan(3);
    expect(second.division.filter((one) => one > 0)).toHaveLength(rowsOfPart(second.parts, 2).length);
  });

  it('is another one for another secret, and the same for the same', () => {
    const own = (number: number) => String(divisionOf(iris(), IRIS_ROLES, draw(), secretOf(number)).division);
    expect(own(1)).toBe(own(1));
    expect(own(1)).not.toBe(own(2));
  });

  it('keeps rows with the same features in one half', () => {
    const lines = Array.from({ length: 60 }, (_, i) => `${2 * i},${i},p\n${2 * i + 1},${i},q`);
    const table = tableOf(`id,x,y\n${lines.join('\n')}\n`);
    const { division } = divisionOf(table, roles, {
      kind: 'first',
      values: { sized: 'rows', validationRows: 0, heldoutRows: 80 },
    });
    for (let row = 40; row < 120; row += 2) expect(division[row]).toBe(division[row + 1]);
  });

  it('goes by blocks of time where the split does: most neighbours in time are in one half', () => {
    const lines = Array.from({ length: 400 }, (_, i) => `${i},${i},${(i * 7) % 3 ? 'p' : 'q'}`);
    const table = tableOf(`id,day,y\n${lines.join('\n')}\n`);
    const plan = {
      kind: 'time',
      values: { sized: 'percent', training: 50, validation: 0, heldout: 50, time: 'day', gap: 0 },
    };
    const { division } = divisionOf(table, { ...roles, time: 'day' }, plan);
    let changes = 0;
    for (let row = 201; row < 400; row++) if (division[row] !== division[row - 1]) changes++;
    expect(changes).toBeLessThan(16);
    expect(rowsFor(division, FEEDBACK).length / 200).toBeCloseTo(0.5, 1);
  });

  it('is balanced on the errors of reference runs: halves differ less than by an unbalanced draw', () => {
    const random = seededRandom(8);
    const lines = Array.from({ length: 300 }, (_, i) => {
      const x = random.unit();
      return `${i},${x.toFixed(4)},${(3 * x + random.unit() ** 4 * 6).toFixed(4)}`;
    });
    const table = tableOf(`id,x,y\n${lines.join('\n')}\n`);
    const own: Roles = { ...roles, task: 'regression', positive: null };
    const plan = draw();
    const { parts } = splitRows(table, plan);
    const fitted = fit(
      table,
      'y',
      'regression',
      'linear',
      {},
      { features: ['x'], rows: rowsOfPart(parts, 0) },
    );
    const gap = (references: readonly (typeof fitted)[], number: number) => {
      const material = { table, roles: own, plan, parts, references, secret: secretOf(number) };
      const division = completeDivision(material, new Uint8Array(300));
      const [y, x] = ['y', 'x'].map((name) => table.columns.find((column) => column.name === name));
      if (y?.kind !== 'number' || x?.kind !== 'number') throw new Error('numbers');
      const error = (purpose: number) => {
        const rows = rowsFor(division, purpose);
        return (
          rows.reduce((sum, row) => sum + ((y.values[row] ?? 0) - 3 * (x.values[row] ?? 0) - 1.2) ** 2, 0) /
          rows.length
        );
      };
      return Math.abs(error(FEEDBACK) - error(FINAL));
    };
    const mean = (references: readonly (typeof fitted)[]) =>
      Array.from({ length: 20 }, (_, i) => gap(references, i)).reduce((a, b) => a + b, 0) / 20;
    expect(mean([fitted])).toBeLessThan(mean([]) / 2);
  });

  it('is refused where there is nothing to divide, or nothing is left to decide marks', () => {
    const table = tableOf(`id,x,y\n1,1,p\n2,2,q\n3,3,p\n`);
    const plan = { kind: 'first', values: { sized: 'rows', validationRows: 0, heldoutRows: 1 } };
    expect(() => divisionOf(table, roles, plan)).toThrow('cannot be divided');
    const all = new Uint8Array(150).fill(FEEDBACK);
    expect(() => divisionOf(iris(), IRIS_ROLES, draw(), secretOf(1), all)).toThrow('none could decide marks');
  });
});
