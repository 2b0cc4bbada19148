/** The position of a row by its identifier, without the blanks around it where it is not found with them. */
export type RowIndex = (id: string) => number | undefined;

/** Identifiers that are numbers from 0 up to this many times their count are looked up in an array. */
const SPARSEST = 4;
const WHOLE = /^(?:0|[1-9]\d{0,8})$/;

/** Finds rows by identifier: in an array where identifiers count rows, as they often do, else in a dictionary. */
export function rowIndex(identifiers: readonly string[]): RowIndex {
  const find = counted(identifiers) ?? named(identifiers);
  return (id) => find(id) ?? find(id.trim());
}

function named(identifiers: readonly string[]): RowIndex {
  const index = new Map(identifiers.map((id, i) => [id, i]));
  return (id) => index.get(id);
}

/** Null where an identifier is no whole number as it is usually written, or where they are too far apart. */
function counted(identifiers: readonly string[]): RowIndex | null {
  let largest = 0;
  for (const id of identifiers) {
    if (!WHOLE.test(id)) return null;
    largest = Math.max(largest, Number(id));
  }
  if (largest > SPARSEST * identifiers.length) return null;
  const places = new Int32Array(largest + 1);
  identifiers.forEach((id, i) => {
    places[Number(id)] = i + 1;
  });
  return (id) => {
    const place = WHOLE.test(id) ? (places[Number(id)] ?? 0) : 0;
    return place > 0 ? place - 1 : undefined;
  };
}
