import { check, type Check } from '../check/check.js';
import { at, count, counted, sum } from '../numbers.js';
import { areaOf, tieBlocks } from '../metrics/ranking.js';
import { wilson } from '../metrics/wilson.js';
import { countCodes, labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { columnNamed, isCoded, takeRows, type Column, type Table } from '../table/table.js';
import { PART_NAMES, type PartCode, type PartName, type SplitPlan } from './plan.js';
import { rowsOfPart, splitRows, strataOf } from './split.js';
import type { UsableRows } from './usable.js';

/** Number of rows of one class in a part, its share there and the share's 95 % interval (Wilson). */
export interface ClassShare {
  readonly label: string;
  readonly rows: number;
  readonly share: number;
  readonly low: number;
  readonly high: number;
}

export interface PartSummary {
  readonly name: PartName;
  readonly rows: number;
  /** By label in label order; for a numeric target, by its fifths. */
  readonly classes: readonly ClassShare[];
  /** Mean of a numeric target; null for classes. */
  readonly targetMean: number | null;
}

/** Difference of a feature between training and held-out rows. */
export interface Drift {
  readonly column: string;
  /** Standardised difference of means for numbers, total variation distance of the shares for categories. */
  readonly measure: 'standardised difference' | 'total variation';
  readonly value: number;
  readonly training: number | null;
  readonly heldout: number | null;
}

/** One stack of tiles of the part map: rows of one group (or of all) with one label in one part. */
export interface MapCell {
  readonly stack: string;
  readonly label: string;
  readonly part: PartName;
  readonly rows: number;
}

export interface SplitConsequences {
  readonly unlabelled: number;
  readonly repeated: number;
  readonly parts: readonly PartSummary[];
  readonly labels: readonly string[];
  readonly drift: readonly Drift[];
  readonly checks: readonly Check[];
  readonly map: readonly MapCell[];
}

/** Common practice: means less than a quarter of a standard deviation apart are near enough. */
const LARGE_DRIFT = 0.25;
/** A single column that ranks the classes this well is likely to give the answer away. */
const TELLING_AREA = 0.95;
const MOST_STACKS = 60;

/** What follows from a split: everything that the desk shows beside the plan. */
export function splitConsequences(
  table: Table,
  roles: Roles,
  plan: SplitPlan,
  used: UsableRows,
  parts: Int8Array,
): SplitConsequences {
  const target = columnNamed(table, roles.target);
  const strata = roles.task === 'regression' ? strataOf(target) : labelsOf(target);
  const present = PART_NAMES.map((name, part) => ({
    name,
    rows: rowsOfPart(parts, part as PartCode),
  })).filter((part) => part.rows.length > 0);
  const summaries = present.map(({ name, rows }): PartSummary => {
    const counts = countCodes(
      rows.map((row) => at(strata.codes, row)),
      strata.labels.length,
    );
    return {
      name,
      rows: rows.length,
      classes: strata.labels.map((label, code) => {
        const n = at(counts, code);
        return { label, rows: n, share: n / rows.length, ...wilson(n, rows.length) };
      }),
      targetMean:
        target.kind === 'number' && roles.task === 'regression'
          ? sum(Float64Array.from(rows, (row) => at(target.values, row))) / rows.length
          : null,
    };
  });
  const features = featuresOf(table, roles);
  const drift = features
    .filter((column) => column.name !== plan.group)
    .map((column) => driftOf(column, rowsOfPart(parts, 0), rowsOfPart(parts, 2)))
    .filter((d) => d !== null)
    .sort((a, b) => b.value - a.value);
  return {
    unlabelled: used.unlabelled,
    repeated: used.repeated,
    parts: summaries,
    labels: strata.labels,
    drift,
    checks: [
      ...groupCheck(table, roles, plan, used, parts),
      shareCheck(summaries, strata.labels, roles.target),
      twinCheck(features, parts),
      ...drift
        .filter((d) => d.value >= LARGE_DRIFT)
        .slice(0, 3)
        .map(driftCheck),
      ...tellingChecks(features, roles, strata.codes, used.usable, strata.labels),
    ],
    map: partMap(table, plan.group ?? roles.group, strata, parts),
  };
}

/** The columns that students get to predict from. */
export function featuresOf(table: Table, roles: Roles): Column[] {
  const not = new Set([roles.target, roles.identifier, ...roles.withheld]);
  return table.columns.filter((column) => !not.has(column.name));
}

function groupCheck(
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

function shareCheck(parts: readonly PartSummary[], labels: readonly string[], target: string): Check {
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
function twinCheck(features: readonly Column[], parts: Int8Array): Check {
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

function driftOf(column: Column, training: Int32Array, heldout: Int32Array): Drift | null {
  if (column.kind === 'text') return null;
  if (isCoded(column)) {
    const shares = [training, heldout].map((rows) => {
      const counts = countCodes(
        rows.map((row) => at(column.codes, row)),
        column.levels.length,
      );
      const total = counts.reduce((a, b) => a + b, 0);
      return counts.map((n) => (total > 0 ? n / total : 0));
    });
    const value =
      at(shares, 0).reduce((d, share, level) => d + Math.abs(share - at(at(shares, 1), level)), 0) / 2;
    return { column: column.name, measure: 'total variation', value, training: null, heldout: null };
  }
  const moments = [training, heldout].map((rows) => {
    const values = (takeRows(column, rows) as typeof column).values.filter((value) => !Number.isNaN(value));
    const mean = sum(values) / values.length;
    return { mean, variance: sum(values.map((value) => (value - mean) ** 2)) / (values.length - 1) };
  });
  const [t, h] = [at(moments, 0), at(moments, 1)];
  const value = Math.abs(t.mean - h.mean) / Math.sqrt((t.variance + h.variance) / 2);
  if (!Number.isFinite(value)) return null;
  return {
    column: column.name,
    measure: 'standardised difference',
    value,
    training: t.mean,
    heldout: h.mean,
  };
}

const driftCheck = (drift: Drift): Check =>
  check('drift', 'unsure', `${drift.column} differs between training and held-out rows`, {
    measured: `${drift.measure} ${drift.value.toFixed(2)}`,
    expected: `below ${LARGE_DRIFT} (common practice)`,
  });

/** Numbers that alone rank the two classes almost perfectly. */
function tellingChecks(
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

function partMap(
  table: Table,
  group: string | null,
  strata: { readonly labels: readonly string[]; readonly codes: Int32Array },
  parts: Int8Array,
): MapCell[] {
  const groups = group === null ? null : labelsOf(columnNamed(table, group));
  const byGroup = groups !== null && groups.labels.length <= MOST_STACKS ? groups : null;
  const cells = new Map<string, { stack: string; label: string; part: PartName; rows: number }>();
  parts.forEach((part, row) => {
    const name = PART_NAMES[part];
    const label = strata.labels[at(strata.codes, row)];
    if (name === undefined || label === undefined) return;
    const stack = byGroup ? (byGroup.labels[at(byGroup.codes, row)] ?? '') : label;
    const key = JSON.stringify([stack, label, name]);
    const cell = cells.get(key);
    if (cell) cell.rows++;
    else cells.set(key, { stack, label, part: name, rows: 1 });
  });
  const stacks = new Map((byGroup ?? strata).labels.map((label, i) => [label, i]));
  const order = (cell: MapCell) => stacks.get(cell.stack) ?? 0;
  return [...cells.values()].sort(
    (a, b) =>
      order(a) - order(b) ||
      PART_NAMES.indexOf(a.part) - PART_NAMES.indexOf(b.part) ||
      strata.labels.indexOf(b.label) - strata.labels.indexOf(a.label),
  );
}
