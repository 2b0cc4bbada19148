import {
  BestSplit,
  byLevel,
  byThreshold,
  type BoostedSplit,
  type Histogram,
  type NodeTotals,
  type SplitLimits,
} from './best-split.js';
import type { BinnedColumn } from './bins.js';

/** Fills histograms of nodes and finds the best split in them. */
export class Histograms {
  /** Where each column begins, in bins; the missing bin is the last of a column. */
  private readonly starts: Int32Array;
  private readonly size: number;
  private readonly free: Histogram[] = [];
  private readonly ownGradients: Float64Array;
  private readonly ownHessians: Float64Array;

  constructor(
    private readonly columns: readonly BinnedColumn[],
    private readonly limits: SplitLimits,
    rowCount: number,
  ) {
    this.starts = new Int32Array(columns.length);
    let size = 0;
    columns.forEach(({ count }, column) => {
      this.starts[column] = size;
      size += count + 1;
    });
    this.size = size;
    this.ownGradients = new Float64Array(rowCount);
    this.ownHessians = new Float64Array(rowCount);
  }

  private take(): Histogram {
    return this.free.pop() ?? { sums: new Float64Array(2 * this.size), rows: new Int32Array(this.size) };
  }

  release(histogram: Histogram): void {
    this.free.push(histogram);
  }

  of(
    members: Int32Array,
    from: number,
    to: number,
    gradients: Float64Array,
    hessians: Float64Array,
  ): Histogram {
    const { ownGradients, ownHessians } = this;
    const histogram = this.take();
    const { sums, rows } = histogram;
    sums.fill(0);
    rows.fill(0);
    gather(gradients, members, from, to, ownGradients);
    gather(hessians, members, from, to, ownHessians);
    this.columns.forEach(({ bins }, column) => {
      addRows(histogram, this.starts[column] ?? 0, bins, members, from, to, ownGradients, ownHessians);
    });
    return histogram;
  }

  /** What is left of a node's histogram without one child's: the other child's, in the place of the node's. */
  rest(node: Histogram, child: Histogram): Histogram {
    for (let i = 0; i < this.size; i++) {
      const rows = child.rows[i] ?? 0;
      if (rows === 0) continue;
      node.rows[i] = (node.rows[i] ?? 0) - rows;
      node.sums[2 * i] = (node.sums[2 * i] ?? 0) - (child.sums[2 * i] ?? 0);
      node.sums[2 * i + 1] = (node.sums[2 * i + 1] ?? 0) - (child.sums[2 * i + 1] ?? 0);
    }
    return node;
  }

  /** The split that makes the loss fall most by its second-order approximation; null where none does. */
  best(histogram: Histogram, totals: NodeTotals, leastGain: number): BoostedSplit | null {
    const search = new BestSplit(totals, this.limits, leastGain);
    this.columns.forEach((column, place) => {
      search.column = place;
      const start = this.starts[place] ?? 0;
      if (column.isCategory) byLevel(search, histogram, start, column.count);
      else byThreshold(search, histogram, start, column);
    });
    return search.found;
  }
}

function gather(
  values: Float64Array,
  members: Int32Array,
  from: number,
  to: number,
  into: Float64Array,
): void {
  for (let i = from; i < to; i++) into[i - from] = values[members[i] ?? 0] ?? 0;
}

/** Adds the rows of a node to the bins of a column. */
function addRows(
  { sums, rows }: Histogram,
  start: number,
  bins: Uint8Array,
  members: Int32Array,
  from: number,
  to: number,
  gradients: Float64Array,
  hessians: Float64Array,
): void {
  for (let i = from; i < to; i++) {
    const place = start + (bins[members[i] ?? 0] ?? 0);
    rows[place] = (rows[place] ?? 0) + 1;
    sums[2 * place] = (sums[2 * place] ?? 0) + (gradients[i - from] ?? 0);
    sums[2 * place + 1] = (sums[2 * place + 1] ?? 0) + (hessians[i - from] ?? 0);
  }
}
