import { SieveError } from '../../foundation/errors.js';
import { at, count } from '../../foundation/numbers.js';
import type { Feature } from '../prepared/recipe.js';
import { treeColumns } from './columns.js';

/**
 * A tree of two branches a node as plain arrays, one element for each node, the root first. Hundreds of such trees are kept
 * in a model, so they hold only what predicting takes; they are arrays again when read from JSON.
 */
export interface CompactTree {
  /** Place of the column that the node is split by; −1 for a leaf. */
  readonly columns: ArrayLike<number>;
  /** A number up to it goes to the low child; of a category the sum of 2^code of the levels that do. */
  readonly thresholds: ArrayLike<number>;
  /** Place of the low child; the high child is the next. */
  readonly lows: ArrayLike<number>;
  /** 1 where a missing value goes to the high child. */
  readonly missingHigh: ArrayLike<number>;
  /** What a leaf predicts, `outputs` values for each node; 0 for the other nodes. */
  readonly values: ArrayLike<number>;
}

/** Most levels of a category: as many as there are bits that a number holds exactly. */
const MOST_TREE_LEVELS = 53;

const POWERS = Float64Array.from({ length: MOST_TREE_LEVELS }, (_, code) => 2 ** code);

/** The level's bit of a set of levels. */
export const bitOf = (code: number): number => POWERS[code] ?? 0;

/** Whether a set of levels has a level. */
export const hasLevel = (set: number, code: number): boolean =>
  Math.floor(set / (POWERS[code] ?? 1)) % 2 === 1;

/** The columns of rows as compact trees take them. */
export interface TreeInputs {
  readonly names: readonly string[];
  /** The source column of each: words of a text have one in common. */
  readonly features: readonly string[];
  readonly isCategory: Uint8Array;
  /** Levels of a category; 0 for numbers. */
  readonly levels: Int32Array;
  /** Numbers, or codes of levels; NaN where the value is missing. */
  readonly values: readonly Float64Array[];
}

export function treeInputs(features: readonly Feature[]): TreeInputs {
  const columns = treeColumns(features);
  return {
    names: columns.map(({ name }) => name),
    features: columns.map(({ feature }) => feature),
    isCategory: Uint8Array.from(columns, ({ kind }) => Number(kind === 'category')),
    levels: Int32Array.from(columns, (column) => (column.kind === 'category' ? column.levels.length : 0)),
    values: columns.map((column) =>
      column.kind === 'number'
        ? column.values
        : Float64Array.from(column.codes, (code) => (code < 0 ? NaN : code)),
    ),
  };
}

/** The leaf that a row falls into, as its place among the nodes. */
export function leafOf(tree: CompactTree, { values, isCategory }: TreeInputs, row: number): number {
  const { columns, thresholds, lows, missingHigh } = tree;
  let place = 0;
  for (;;) {
    const column = columns[place] ?? -1;
    if (column < 0) return place;
    const value = values[column]?.[row] ?? NaN;
    const threshold = thresholds[place] ?? 0;
    let high: number;
    if (value !== value) high = missingHigh[place] ?? 0;
    else if (isCategory[column]) high = hasLevel(threshold, value) ? 0 : 1;
    else high = value <= threshold ? 0 : 1;
    place = (lows[place] ?? 0) + high;
  }
}

/**
 * Adds to each of the outputs what a tree predicts for every row.
 *
 * @param sums one array for each output, of as many values as there are rows
 */
export function addTree(tree: CompactTree, inputs: TreeInputs, sums: readonly Float64Array[]): void {
  const rowCount = at(sums, 0).length;
  const outputs = sums.length;
  for (let row = 0; row < rowCount; row++) {
    const first = leafOf(tree, inputs, row) * outputs;
    for (let k = 0; k < outputs; k++) {
      const sum = sums[k];
      if (sum) sum[row] = (sum[row] ?? 0) + (tree.values[first + k] ?? 0);
    }
  }
}

/** Leaves of a tree. */
export function countLeaves({ columns }: CompactTree): number {
  let leaves = 0;
  for (let place = 0; place < columns.length; place++) if ((columns[place] ?? -1) < 0) leaves++;
  return leaves;
}

/** Nodes that the trees of one model may have: as many as memory and a file of the model hold. */
const MOST_NODES = 8e6;

/** Counts the nodes of a model's trees. */
export class NodeBudget {
  private nodes = 0;

  /** @throws SieveError `model` with the field where the trees are too large together */
  spend({ columns }: CompactTree, field: string): void {
    this.nodes += columns.length;
    if (this.nodes > MOST_NODES)
      throw new SieveError(
        'model',
        `The trees of this model would have more than ${count(MOST_NODES)} nodes: ask for fewer of them, or for more rows in a leaf.`,
        { field },
      );
  }
}

/** Collects nodes; a node is a leaf until it is split. */
export class TreeBuilder {
  private readonly columns: number[] = [];
  private readonly thresholds: number[] = [];
  private readonly lows: number[] = [];
  private readonly missingHigh: number[] = [];
  private readonly values: number[] = [];

  constructor(private readonly outputs: number) {
    this.add();
  }

  private add(): void {
    this.columns.push(-1);
    this.thresholds.push(0);
    this.lows.push(0);
    this.missingHigh.push(0);
    for (let k = 0; k < this.outputs; k++) this.values.push(0);
  }

  /** Gives a node two children. @returns the place of the low one */
  split(place: number, column: number, threshold: number, missingHigh: boolean): number {
    const low = this.columns.length;
    this.columns[place] = column;
    this.thresholds[place] = threshold;
    this.lows[place] = low;
    this.missingHigh[place] = Number(missingHigh);
    this.add();
    this.add();
    return low;
  }

  /** What a leaf predicts. */
  set(place: number, output: number, value: number): void {
    this.values[place * this.outputs + output] = value;
  }

  done(): CompactTree {
    return {
      columns: Int32Array.from(this.columns),
      thresholds: Float64Array.from(this.thresholds),
      lows: Int32Array.from(this.lows),
      missingHigh: Int32Array.from(this.missingHigh),
      values: Float64Array.from(this.values),
    };
  }
}
