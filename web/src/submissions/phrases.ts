/** Where a browser keeps what was written. */
interface Store {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
}

const KEY = 'sieve-phrases';
const MOST = 8;

/** Comments that were written in this browser, the last one first. */
export function keptPhrases(store: Store): readonly string[] {
  try {
    const kept: unknown = JSON.parse(store.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string').slice(0, MOST) : [];
  } catch {
    // Something else wrote there.
    return [];
  }
}

/** Keeps a comment for the next time; the oldest of many is forgotten. */
export function keepPhrase(store: Store, text: string): void {
  const phrase = text.trim();
  if (phrase === '') return;
  const others = keptPhrases(store).filter((one) => one !== phrase);
  store.setItem(KEY, JSON.stringify([phrase, ...others].slice(0, MOST)));
}
