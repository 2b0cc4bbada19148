/** An axis with round ticks that shows all points with some room, not beyond what the metric can be. */
export function axisOf(
  points: readonly number[],
  bounds: readonly [number | null, number | null],
): { domain: [number, number]; ticks: number[] } {
  const least = Math.min(...points);
  const most = Math.max(...points);
  // Points that are one for all the digits there are get an axis of their own size, and nought one of 1.
  const size = Math.max(Math.abs(least), Math.abs(most));
  const apart = most - least > size * 1e-9 ? most - least : size;
  const span = apart > 1e-100 ? apart : 1;
  const power = 10 ** Math.floor(Math.log10(span / 3));
  const step = power * ([1, 2, 5].find((multiple) => span / (multiple * power) <= 6) ?? 10);
  const low = Math.max(Math.floor((least - span * 0.08) / step) * step, bounds[0] ?? -Infinity);
  const high = Math.min(Math.ceil((most + span * 0.08) / step) * step, bounds[1] ?? Infinity);
  const ticks = Array.from({ length: Math.round((high - low) / step) + 1 }, (_, i) =>
    Number((low + i * step).toPrecision(6)),
  );
  return { domain: [low, high], ticks };
}

/** As a part of the axis: texts of lines that are nearer stay apart. */
const NEAR = 0.12;

/**
 * The place of the text of each line: over it, or to one side where another line is near.
 *
 * @param scores of the lines, in any order
 */
export function labelSides(
  scores: readonly number[],
  [low, high]: readonly [number, number],
): ('start' | 'middle' | 'end')[] {
  const isNear = (a: number, b: number) => Math.abs(a - b) < NEAR * (high - low);
  return scores.map((score, i) => {
    const others = scores.filter((other, j) => j !== i && isNear(other, score));
    if (others.length === 0) return 'middle';
    return others.some((other) => other > score) ? 'end' : 'start';
  });
}

/**
 * The height of the text over each line, from 0 up: one that is near another stands over it.
 *
 * @param scores of the lines, in any order
 */
export function labelLevels(
  scores: readonly number[],
  [low, high]: readonly [number, number],
): readonly number[] {
  const levels = scores.map(() => 0);
  const order = [...scores.keys()].sort((a, b) => (scores[a] ?? 0) - (scores[b] ?? 0));
  order.forEach((line, place) => {
    const near = order
      .slice(0, place)
      .filter((other) => Math.abs((scores[other] ?? 0) - (scores[line] ?? 0)) < NEAR * (high - low))
      .map((other) => levels[other]);
    let level = 0;
    while (near.includes(level)) level++;
    levels[line] = level;
  });
  return levels;
}
