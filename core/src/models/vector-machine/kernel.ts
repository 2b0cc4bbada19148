/** How alike two rows are; u·v is their inner product over standardised columns, u−v their difference. */
export type Kernel =
  | { readonly kind: 'linear' }
  /** (factor · u·v + constant)^degree */
  | {
      readonly kind: 'polynomial';
      readonly factor: number;
      readonly degree: number;
      readonly constant: number;
    }
  /** exp(−factor · |u−v|²) */
  | { readonly kind: 'radial'; readonly factor: number };

/** Rows by column. */
export type Columns = readonly ArrayLike<number>[];

/** Of each row the inner product with itself. */
export function ownProducts(columns: Columns, rowCount: number): Float64Array {
  const out = new Float64Array(rowCount);
  for (const column of columns) addSquares(column, out);
  return out;
}

function addSquares(column: ArrayLike<number>, out: Float64Array): void {
  for (let row = 0; row < out.length; row++) out[row] = (out[row] ?? 0) + (column[row] ?? 0) ** 2;
}

/**
 * The kernel of one row with many.
 *
 * @param point values of the one, by column
 * @param products the inner products of the many with themselves
 * @param into set to the kernel of each
 */
export function kernelRow(
  kernel: Kernel,
  point: ArrayLike<number>,
  columns: Columns,
  products: Float64Array,
  into: Float64Array,
): void {
  into.fill(0);
  let own = 0;
  for (let c = 0; c < columns.length; c++) {
    const value = point[c] ?? 0;
    own += value * value;
    const column = columns[c];
    if (value !== 0 && column) addTimes(column, value, into);
  }
  if (kernel.kind === 'radial') radial(into, products, own, kernel.factor);
  else if (kernel.kind === 'polynomial') polynomial(into, kernel.factor, kernel.constant, kernel.degree);
}

function addTimes(column: ArrayLike<number>, value: number, into: Float64Array): void {
  for (let row = 0; row < into.length; row++) into[row] = (into[row] ?? 0) + value * (column[row] ?? 0);
}

function radial(into: Float64Array, products: Float64Array, own: number, factor: number): void {
  for (let row = 0; row < into.length; row++)
    into[row] = Math.exp(-factor * Math.max(0, own + (products[row] ?? 0) - 2 * (into[row] ?? 0)));
}

function polynomial(into: Float64Array, factor: number, constant: number, degree: number): void {
  for (let row = 0; row < into.length; row++) into[row] = (factor * (into[row] ?? 0) + constant) ** degree;
}
