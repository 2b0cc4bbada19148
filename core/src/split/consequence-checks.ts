import { check, type Check } from '../check/check.js';
import { areaOf, tieBlocks } from '../metrics/ranking.js';
import { at, count, counted } from '../numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { columnNamed, isCoded, type Column, type Table } from '../table/table.js';
import type { Drift } from './drift.js';
import type { PartSummary } from './part-summary.js';
import type { SplitPlan } from './plan.js';
import { splitRows } from './split.js';
import type { UsableRows } from './usable.js';

/** Common practice: means less than a quarter of a standard deviation apart are near enough. */
export const LARGE_DRIFT = 0.25;
/** A single column that ranks the classes this well is likely to give the answer away. */
const TELLING_AREA = 0.95;

/** Whether any group stands in two parts, and what a split by rows would do. */
export function groupCheck(
  table: Table,
  roles: Roles,
  plan: SplitPlan,
  used: UsableRows,
  parts: Int8Array,
): Check[] {
  const name = plan.group ?? roles.group;
  if (name === null) return [];
  const groups = labelsOf(columnNamed(table, name));
  const crossing = crossingGroups(groups.codes, parts);
  const total = new Set(groups.codes.filter((code, row) => code >= 0 && used.usable[row] === 1)).size;
  if (crossing.size === 0) {
    const random = crossingGroups(groups.codes, splitRows(table, { ...plan, group: null }, used.usable));
    return [
      check('groups', 'holds', `${counted(total, 'value')} of ${name}, none parted`, {
        measured:
          `a split by rows would part ${random.size === total ? 'all' : ''} ${count(random.size)}`.replace(
            '  ',
            ' ',
          ),
      }),
    ];
  }
  return [
    check('groups', 'fails', `Rows of one ${name} stand on both sides`, {
      measured: `${count(crossing.size)} of ${count(total)} parted`,
      expected: 'none parted: rows of one group resemble one another',
      examples: [...crossing]
        .slice(0, 5)
        .map((code) => ({ line: null, column: null, text: at(groups.labels, code) })),
    }),
  ];
}

function crossingGroups(codes: Int32Array, parts: Int8Array): Set<number> {
  const partOf = new Map<number, number>();
  const crossing = new Set<number>();
  codes.forEach((code, row) => {
    const part = at(parts, row);
    if (code < 0 || part < 0) return;
    const earlier = partOf.get(code);
    if (earlier === undefined) partOf.set(code, part);
    else if (earlier !== part) crossing.add(code);
  });
  return crossing;
}

/** How far the shares of a class lie apart at most. */
export function shareCheck(parts: readonly PartSummary[], labels: readonly string[], target: string): Check {
  let widest = { label: '', low: 0, high: 0 };
  labels.forEach((label, code) => {
    const shares = parts.map((part) => part.classes[code]?.share ?? 0);
    const [low, high] = [Math.min(...shares), Math.max(...shares)];
    if (high - low >= widest.high - widest.low) widest = { label, low, high };
  });
  const points = ((widest.high - widest.low) * 100).toFixed(1);
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
  return check(
    'shares',
    widest.high - widest.low < 0.05 ? 'holds' : 'unsure',
    `Shares of ${target} within ${points} points of each other`,
    {
      measured: `widest: “${widest.label}”, ${percent(widest.low)} to ${percent(widest.high)}`,
      expected: 'within 5 points',
    },
  );
}

/** Rows with the same features in two parts: a model that has seen one has seen the other. */
export function twinCheck(features: readonly Column[], parts: Int8Array): Check {
  const partOf = new Map<string, number>();
  let twins = 0;
  parts.forEach((part, row) => {
    if (part < 0) return;
    const key = features.map((c) => String(at(isCoded(c) ? c.codes : c.values, row))).join('|');
    const earlier = partOf.get(key);
    if (earlier === undefined) partOf.set(key, part);
    else if (earlier !== part) twins++;
  });
  return twins === 0
    ? check('twins', 'holds', 'No row has the same features as one in another part')
    : check('twins', 'unsure', `${counted(twins, 'row')} with the same features as a row in another part`, {
        expected: 'none',
      });
}

/** A feature that differs more than common practice allows. */
export const driftCheck = (drift: Drift): Check =>
  check('drift', 'unsure', `${drift.column} differs between training and held-out rows`, {
    measured: `${drift.measure} ${drift.value.toFixed(2)}`,
    expected: `below ${LARGE_DRIFT} (common practice)`,
  });

/** Numbers that alone rank the two classes almost perfectly. */
export function tellingChecks(
  features: readonly Column[],
  roles: Roles,
  codes: Int32Array,
  usable: Uint8Array,
  labels: readonly string[],
): Check[] {
  if (roles.task !== 'binary') return [];
  const positive = labels.indexOf(roles.positive ?? '');
  return features.flatMap((column) => {
    if (column.kind !== 'number') return [];
    const rows = Int32Array.from(usable.keys()).filter(
      (row) => usable[row] === 1 && !Number.isNaN(at(column.values, row)),
    );
    const scores = Float64Array.from(rows, (row) => at(column.values, row));
    const area = areaOf(tieBlocks(scores, (i) => codes[at(rows, i)] === positive, null));
    const strength = Math.max(area, 1 - area);
    if (!(strength >= TELLING_AREA)) return [];
    return [
      check('telling', 'fails', `${column.name} gives the answer away`, {
        measured: `alone it ranks ${roles.target} with area ${strength.toFixed(2)}`,
        expected: `below ${TELLING_AREA}; if it is known only after the outcome, withhold it at Look`,
      }),
    ];
  });
}
