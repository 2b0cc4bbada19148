import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { labelsOf, type Labelled } from '../../data/table/labels.js';
import { columnNamed, isCoded, type Column, type Table } from '../../data/table/table.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { crossingGroups, findTwins, type Twins } from './crossing.js';
import { driftOf, driftValue, type Drift } from './drift.js';
import { summariseParts, type PartRows } from './part-summary.js';
import { adversarialValidation } from './adversarial-validation.js';

/** Which part each row is in. */
export interface Assignment {
  readonly names: readonly string[];
  /** Index of the part in `names`, or −1 for a row in none. */
  readonly parts: Int8Array;
}

/** What the columns are for, as far as it is known; nothing has to be. */
export interface QualityOptions {
  readonly target?: string;
  /** Whether the target is a number; classes otherwise. */
  readonly numeric?: boolean;
  readonly group?: string;
  readonly time?: string;
  /** Columns that name rows and are no features. */
  readonly identifier?: string;
  readonly withheld?: readonly string[];
  /** Draws the same plan again with another seed; left out for a split that gives the same result each time. */
  readonly redraw?: (seed: number) => Int8Array;
  /** False to do without `apart`, which takes the most time. */
  readonly apart?: boolean;
}

/** How good a split is. The first part is what is trained on, the last what is held out. */
export interface SplitQuality {
  readonly parts: readonly (PartRows & { readonly name: string; readonly share: number })[];
  /** The class whose share in a part lies farthest from its share in all parts, and by how much. */
  readonly deviation: { readonly label: string; readonly part: string; readonly difference: number } | null;
  readonly features: readonly Drift[];
  readonly groups: {
    readonly column: string;
    readonly groups: number;
    readonly crossing: number;
    readonly examples: readonly string[];
  } | null;
  readonly twins: Twins;
  /** Rows of earlier parts that do not lie before every row of the last one. */
  readonly time: { readonly column: string; readonly overlapping: number; readonly of: number } | null;
  /** Area under the ROC curve of a classifier of the first against the last part, beside redrawn splits of the same plan. */
  readonly apart: {
    readonly area: number;
    readonly redrawn: { readonly low: number; readonly high: number; readonly draws: number } | null;
  } | null;
}

const REDRAWS = 10;
const MOST_EXAMPLES = 5;

/**
 * Judges a split in full.
 *
 * @throws SieveError `no-such-column`
 */
export function splitQuality(
  table: Table,
  { names, parts }: Assignment,
  options: QualityOptions,
): SplitQuality {
  const target = options.target === undefined ? null : columnNamed(table, options.target);
  const strata = target ? (options.numeric ? strataOf(target) : labelsOf(target)) : null;
  const summaries = summariseParts(
    names,
    parts,
    strata,
    options.numeric ? target : null,
    options.group === undefined ? null : labelsOf(columnNamed(table, options.group)),
  );
  const inPart = parts.reduce((n, part) => (part >= 0 ? n + 1 : n), 0);
  const not = new Set([options.target, options.identifier, ...(options.withheld ?? [])]);
  const features = table.columns.filter((column) => !not.has(column.name));
  const compared = features.filter((column) => column.name !== options.group && column.name !== options.time);
  const used = names.map((_, part) => part).filter((part) => parts.includes(part));
  const [first = 0] = used;
  const last = used.at(-1) ?? 0;
  const [training, heldout] = [rowsOfPart(parts, first), rowsOfPart(parts, last)];
  const sides = (codes: Int8Array): [Int32Array, Int32Array] => [
    rowsOfPart(codes, first),
    rowsOfPart(codes, last),
  ];
  return {
    parts: summaries.map((part) => ({ ...part, share: part.rows / inPart })),
    deviation: strata ? widestDeviation(summaries, strata, parts) : null,
    features: drifts(compared, training, heldout, redrawsOf(parts, options.redraw), sides),
    groups: options.group === undefined ? null : groupsIn(columnNamed(table, options.group), parts),
    twins: findTwins(features, parts, options.numeric ? null : (strata?.codes ?? null)),
    time: options.time === undefined ? null : overlapIn(columnNamed(table, options.time), parts, last),
    apart: options.apart === false ? null : apartOf(compared, training, heldout, options.redraw, sides),
  };
}

/** Redraws with which the difference of a feature is compared; fewer of many rows, where they hardly differ. */
const DRIFT_REDRAWS = 20;
const FEW_REDRAWS = 5;
const MANY_ROWS = 50_000;
/** Deviations of the redraws above their mean that hardly a feature of fifteen reaches by chance: 2 % of tables. */
const DEVIATIONS = 4.5;

/**
 * Splits of the same plan under other seeds; random parts of the same sizes where there is no plan to redraw, or one that
 * always gives the same, as an order of time does.
 */
function redrawsOf(parts: Int8Array, redraw: QualityOptions['redraw']): Int8Array[] {
  const random = seededRandom(0, 'drift');
  const count = parts.length > MANY_ROWS ? FEW_REDRAWS : DRIFT_REDRAWS;
  const isDrawn = redraw !== undefined && redraw(1).some((part, row) => part !== parts[row]);
  return Array.from({ length: count }, (_, i) => (isDrawn ? redraw(i + 1) : shuffle(parts.slice(), random)));
}

/** Differences of the features, the largest first, each beside what the redraws give. */
function drifts(
  features: readonly Column[],
  training: Int32Array,
  heldout: Int32Array,
  redraws: readonly Int8Array[],
  sides: (codes: Int8Array) => [Int32Array, Int32Array],
): Drift[] {
  const redrawn = redraws.map(sides);
  return features
    .flatMap((column): Drift[] => {
      const drift = driftOf(column, training, heldout);
      if (!drift) return [];
      const values = redrawn.flatMap(([a, b]) => driftValue(column, a, b) ?? []);
      const mean = values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
      const variance =
        values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, values.length - 1);
      return [{ ...drift, usual: mean + DEVIATIONS * Math.sqrt(variance) }];
    })
    .sort((a, b) => b.value - a.value);
}

function widestDeviation(
  summaries: readonly (PartRows & { readonly name: string })[],
  strata: Labelled,
  parts: Int8Array,
): SplitQuality['deviation'] {
  const counts = new Float64Array(strata.labels.length);
  let n = 0;
  parts.forEach((part, row) => {
    if (part < 0) return;
    n++;
    const code = at(strata.codes, row);
    if (code >= 0) counts[code] = at(counts, code) + 1;
  });
  let widest: SplitQuality['deviation'] = null;
  for (const part of summaries) {
    part.classes.forEach(({ label, share }, code) => {
      const difference = share - at(counts, code) / n;
      if (!widest || Math.abs(difference) > Math.abs(widest.difference))
        widest = { label, part: part.name, difference };
    });
  }
  return widest;
}

function groupsIn(column: Column, parts: Int8Array): SplitQuality['groups'] {
  const groups = labelsOf(column);
  const crossing = crossingGroups(groups.codes, parts);
  const total = new Set(groups.codes.filter((code, row) => code >= 0 && at(parts, row) >= 0)).size;
  return {
    column: column.name,
    groups: total,
    crossing: crossing.size,
    examples: [...crossing].slice(0, MOST_EXAMPLES).map((code) => at(groups.labels, code)),
  };
}

function overlapIn(column: Column, parts: Int8Array, last: number): SplitQuality['time'] {
  if (isCoded(column)) return null;
  let start = Infinity;
  parts.forEach((part, row) => {
    if (part === last) start = Math.min(start, at(column.values, row));
  });
  let overlapping = 0;
  let of = 0;
  parts.forEach((part, row) => {
    if (part < 0 || part === last) return;
    of++;
    if (!(at(column.values, row) < start)) overlapping++;
  });
  return { column: column.name, overlapping, of };
}

function apartOf(
  features: readonly Column[],
  training: Int32Array,
  heldout: Int32Array,
  redraw: QualityOptions['redraw'],
  sides: (codes: Int8Array) => [Int32Array, Int32Array],
): SplitQuality['apart'] {
  const area = adversarialValidation(features, training, heldout, 0);
  if (area === null) return null;
  if (!redraw) return { area, redrawn: null };
  const areas: number[] = [];
  for (let seed = 1; seed <= REDRAWS; seed++) {
    const drawn = adversarialValidation(features, ...sides(redraw(seed)), seed);
    if (drawn !== null) areas.push(drawn);
  }
  const redrawn =
    areas.length === 0 ? null : { low: Math.min(...areas), high: Math.max(...areas), draws: areas.length };
  return { area, redrawn };
}
