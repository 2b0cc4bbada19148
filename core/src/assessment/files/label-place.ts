const isTruth = (text: string): boolean => /^(?:true|false)$/i.test(text);

/**
 * The place of a label that a program wrote in its own way: 1.0 for 1, True for true; −1 for none. A label that is found as
 * it is written comes first.
 */
export function labelPlace(labels: readonly string[], label: string): number {
  const place = labels.indexOf(label);
  if (place >= 0) return place;
  const text = label.trim();
  if (text === '') return -1;
  const isSame = isTruth(text)
    ? (one: string) => one.toLowerCase() === text.toLowerCase()
    : (one: string) => one.trim() !== '' && Number(one) === Number(text);
  const first = labels.findIndex(isSame);
  // Of two labels that differ in their way of writing alone, neither is meant.
  return first >= 0 && labels.findLastIndex(isSame) === first ? first : -1;
}
