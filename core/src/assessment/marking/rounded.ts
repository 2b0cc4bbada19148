/**
 * A score rounded so far that a single answer rarely shows: to two significant digits, and for scores up to 1 to
 * the step 0.05 below 400 rows, 0.01 from there on.
 */
export function roundedTo(score: number, rows: number): number {
  if (score === 0) return score;
  if (Math.abs(score) <= 1) {
    const steps = rows < 400 ? 20 : 100;
    return Math.round(score * steps) / steps;
  }
  return Number(score.toPrecision(2));
}
