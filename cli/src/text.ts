/** A number as it is read by people: four significant digits beyond the point, no more than it has. */
export function shown(value: number | null | undefined): string {
  if (value === null || value === undefined) return '–';
  if (Number.isInteger(value)) return String(value);
  const size = Math.abs(value);
  return size >= 1e7 || size < 1e-4
    ? value.toExponential(3)
    : String(Number(value.toPrecision(size >= 1000 ? 7 : 4)));
}

/** Rows of cells under a header, in columns; cells that are numbers stand on the right. */
export function inColumns(header: readonly string[], rows: readonly (readonly string[])[]): string {
  const widths = header.map((name, c) => Math.max(name.length, ...rows.map((row) => row[c]?.length ?? 0)));
  const isNumeric = header.map((_, c) => rows.every((row) => /^[\d.,+\-–e %]*$/.test(row[c] ?? '')));
  const line = (cells: readonly string[]) =>
    cells
      .map((cell, c) => (isNumeric[c] ? cell.padStart(widths[c] ?? 0) : cell.padEnd(widths[c] ?? 0)))
      .join('  ')
      .trimEnd();
  return [header, ...rows].map(line).join('\n');
}
