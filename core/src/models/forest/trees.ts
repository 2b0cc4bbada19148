import { seededRandom, type Random } from '../../foundation/random/random.js';
import type { PieceTask } from '../../foundation/work/work.js';
import type { Training } from '../contract/sample.js';
import { NodeBudget, treeInputs, type CompactTree, type TreeInputs } from '../trees/compact-tree.js';
import { ClassSums } from '../trees/node-sums.js';
import { NumberSums } from '../trees/number-sums.js';
import { rankColumns } from '../trees/ranks.js';
import { ForestGrower } from './grow.js';

export interface ForestValues {
  readonly trees: number;
  readonly features_per_split: number;
  readonly rows_per_leaf: number;
  readonly depth: number;
  readonly rows: 'drawn' | 'all';
  readonly share: number;
  readonly thresholds: 'best' | 'random';
}

/** Columns that are tried at a node where none are asked for: as scikit-learn begins. */
const usualColumns = (columns: number, isNumbers: boolean): number =>
  isNumbers ? columns : Math.max(1, Math.floor(Math.sqrt(columns)));

/** Trees of a forest that are to be grown, as plain data. */
export interface TreesToGrow extends Pick<Training, 'features' | 'rowCount' | 'target' | 'weights'> {
  readonly values: ForestValues;
  readonly seed: number;
  /** The first of them and the one after the last, of all trees of the forest. */
  readonly from: number;
  readonly to: number;
}

export interface GrownTrees {
  readonly trees: readonly CompactTree[];
  /** For each tree and each column what it brought: of one tree at most 1 together, however much its rows weigh. */
  readonly gains: readonly Float64Array[];
}

/** Draws the rows of trees, each with a stream of random numbers of its own. */
export class RowDraws {
  /** 1 for each row of the tree that was drawn last. */
  readonly isIn: Uint8Array;
  /** How much each row weighs there: as often as it was drawn, times its own weight. */
  readonly weights: Float64Array;
  private readonly own: Float64Array;

  constructor(
    { rowCount, weights }: Pick<Training, 'rowCount' | 'weights'>,
    private readonly values: ForestValues,
    private readonly seed: number,
  ) {
    this.own = weights ?? new Float64Array(rowCount).fill(1);
    this.weights = this.own.slice();
    this.isIn = new Uint8Array(rowCount);
  }

  /** @returns the tree's random numbers, after those that drew its rows */
  draw(tree: number): Random {
    const { weights, own, values } = this;
    const random = seededRandom(this.seed, `tree ${tree}`);
    const rowCount = own.length;
    if (values.rows === 'drawn') {
      weights.fill(0);
      const draws = Math.max(1, Math.round((rowCount * values.share) / 100));
      for (let draw = 0; draw < draws; draw++) {
        const row = random.below(rowCount);
        weights[row] = (weights[row] ?? 0) + (own[row] ?? 0);
      }
    }
    // Only rows that weigh nothing may have been drawn.
    if (!this.mark()) {
      weights.set(own);
      this.mark();
    }
    return random;
  }

  /** Marks the rows that weigh something. @returns whether there are any */
  private mark(): boolean {
    const { weights, isIn } = this;
    let members = 0;
    for (let row = 0; row < isIn.length; row++) {
      isIn[row] = (weights[row] ?? 0) > 0 ? 1 : 0;
      members += isIn[row] ?? 0;
    }
    return members > 0;
  }
}

/** @throws SieveError `model` where the trees are too large together */
function growTrees({ values, seed, from, to, ...training }: TreesToGrow): GrownTrees {
  const inputs = treeInputs(training.features);
  const columns = rankColumns(inputs);
  const draws = new RowDraws(training, values, seed);
  const grower = new ForestGrower(
    columns,
    sumsOf(training, inputs, draws.weights),
    {
      columnsPerSplit: Math.min(
        columns.length,
        values.features_per_split || usualColumns(columns.length, training.target.kind === 'numbers'),
      ),
      rowsPerLeaf: values.rows_per_leaf,
      depth: values.depth,
      thresholds: values.thresholds,
    },
    training.rowCount,
  );
  const budget = new NodeBudget();
  const gains: Float64Array[] = [];
  const trees = Array.from({ length: to - from }, (_, place) => {
    const random = draws.draw(from + place);
    const rows = Int32Array.from(draws.isIn.keys()).filter((row) => draws.isIn[row] === 1);
    const own = new Float64Array(columns.length);
    const grown = grower.grow(rows, random, own);
    budget.spend(grown, 'trees');
    const total = own.reduce((sum, gain) => sum + gain, 0);
    gains.push(total > 0 ? own.map((gain) => gain / total) : own);
    return grown;
  });
  return { trees, gains };
}

function sumsOf(
  { target, rowCount }: Pick<TreesToGrow, 'target' | 'rowCount'>,
  inputs: TreeInputs,
  weights: Float64Array,
) {
  const sizes = { rows: rowCount, levels: inputs.levels.reduce((most, levels) => Math.max(most, levels), 1) };
  return target.kind === 'numbers'
    ? new NumberSums(target.values, weights, sizes)
    : new ClassSums(target.codes, target.labels.length, weights, sizes);
}

/** Grows trees in any thread. */
export const growTreesTask: PieceTask<TreesToGrow, GrownTrees> = { name: 'grow-trees', run: growTrees };
