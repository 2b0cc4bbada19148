/** Order of two texts by code unit: the same on every machine, whatever its language. */
export function byCodeUnit(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** Order of labels: by value if all are numbers, else by code unit. */
export function sortLabels(labels: Iterable<string>): string[] {
  const out = [...labels];
  const numeric = out.every((label) => label.trim() !== '' && Number.isFinite(Number(label)));
  return out.sort(numeric ? (a, b) => Number(a) - Number(b) || byCodeUnit(a, b) : byCodeUnit);
}
