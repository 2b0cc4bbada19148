/**
 * Open data sets that are taught with everywhere, by name, rows and columns with the target: their answers can be looked
 * up. The numbers are from memory of the UCI repository and of the tables that come with R and scikit-learn.
 */
const OPEN_TABLES: readonly (readonly [name: string, rows: number, columns: number])[] = [
  ['abalone', 4177, 9],
  ['adult income', 32561, 15],
  ['adult income', 48842, 15],
  ['airfoil noise', 1503, 6],
  ['auto mpg', 392, 9],
  ['auto mpg', 398, 9],
  ['bank marketing', 41188, 21],
  ['bank marketing', 45211, 17],
  ['Boston housing', 506, 14],
  ['breast cancer', 569, 31],
  ['California housing', 20640, 9],
  ['car evaluation', 1728, 7],
  ['concrete strength', 1030, 9],
  ['diabetes progression', 442, 11],
  ['digits', 1797, 65],
  ['energy efficiency', 768, 10],
  ['German credit', 1000, 21],
  ['glass', 214, 10],
  ['heart disease', 303, 14],
  ['ionosphere', 351, 35],
  ['iris', 150, 5],
  ['Longley', 16, 7],
  ['mtcars', 32, 11],
  ['mushrooms', 8124, 23],
  ['penguins', 344, 8],
  ['Pima diabetes', 768, 9],
  ['sonar', 208, 61],
  ['spambase', 4601, 58],
  ['Titanic passengers', 891, 12],
  ['Titanic passengers', 1309, 14],
  ['wine', 178, 14],
  ['wine quality', 1599, 12],
  ['wine quality', 4898, 12],
  ['wine quality', 6497, 12],
  ['zoo', 101, 18],
];

/** Columns by which copies differ: an identifier, the names of the rows, one that was left out. */
const COLUMNS_WITHIN = 2;

/**
 * Name of an open data set that has as many rows, and nearly as many columns; null for none. It is a hint: another table
 * may have that shape, and a copy with a row less is not noticed.
 */
export function openTableLike(rows: number, columns: number): string | null {
  const found = OPEN_TABLES.filter(([, n, k]) => n === rows && Math.abs(k - columns) <= COLUMNS_WITHIN);
  const nearest = found.sort((a, b) => Math.abs(a[2] - columns) - Math.abs(b[2] - columns))[0];
  return nearest?.[0] ?? null;
}
