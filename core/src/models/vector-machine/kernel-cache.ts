import { kernelRow, ownProducts, type Columns, type Kernel } from './kernel.js';

/** Memory for rows of the kernel, in bytes. */
const MOST_BYTES = 200 * 2 ** 20;

/** The kernel of training rows with one another, a row of the matrix at a time; those that were used last are remembered. */
export class KernelCache {
  /** Of each row with itself. */
  readonly diagonal: Float64Array;
  private readonly products: Float64Array;
  private readonly rows = new Map<number, Float64Array>();
  private readonly most: number;
  private readonly point: Float64Array;

  constructor(
    private readonly kernel: Kernel,
    private readonly columns: Columns,
    private readonly rowCount: number,
  ) {
    this.products = ownProducts(columns, rowCount);
    this.most = Math.max(2, Math.floor(MOST_BYTES / (8 * Math.max(1, rowCount))));
    this.point = new Float64Array(columns.length);
    this.diagonal = this.products.map((product) => {
      if (kernel.kind === 'linear') return product;
      return kernel.kind === 'radial' ? 1 : (kernel.factor * product + kernel.constant) ** kernel.degree;
    });
  }

  row(row: number): Float64Array {
    const known = this.rows.get(row);
    if (known) {
      // The map keeps the order of use: the first is the one that was not used for longest.
      this.rows.delete(row);
      this.rows.set(row, known);
      return known;
    }
    let made: Float64Array | undefined;
    if (this.rows.size >= this.most) {
      const [oldest] = this.rows.keys();
      if (oldest !== undefined) {
        made = this.rows.get(oldest);
        this.rows.delete(oldest);
      }
    }
    made ??= new Float64Array(this.rowCount);
    for (let c = 0; c < this.point.length; c++) this.point[c] = this.columns[c]?.[row] ?? 0;
    kernelRow(this.kernel, this.point, this.columns, this.products, made);
    this.rows.set(row, made);
    return made;
  }
}
