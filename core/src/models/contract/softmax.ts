/** Probabilities from log-odds of any common origin, the largest of a row taken off first. */
export function softmax(logits: readonly Float64Array[]): Float64Array[] {
  const out = logits.map((values) => values.slice());
  const rowCount = logits[0]?.length ?? 0;
  for (let row = 0; row < rowCount; row++) {
    let largest = -Infinity;
    for (const values of logits) largest = Math.max(largest, values[row] ?? 0);
    let sum = 0;
    for (const values of out) {
      values[row] = Math.exp((values[row] ?? 0) - largest);
      sum += values[row] ?? 0;
    }
    for (const values of out) values[row] = (values[row] ?? 0) / sum;
  }
  return out;
}
