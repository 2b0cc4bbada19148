import { useEffect, useState } from 'react';

/**
 * State that survives a reload of the page under a key, until it is let go.
 *
 * @param read takes what was saved as what it is; null for anything else, which an older page may have left
 */
export function useSaved<T>(
  key: string,
  start: T,
  read: (saved: unknown) => T | null,
): [T, (value: T) => void, () => void] {
  const [value, setValue] = useState<T>(() => savedIn(sessionStorage.getItem(key), read) ?? start);
  useEffect(() => {
    if (value !== start) sessionStorage.setItem(key, JSON.stringify(value));
  }, [key, value, start]);
  return [value, setValue, () => sessionStorage.removeItem(key)];
}

/** What a saved text holds; null where that is nothing that can be read. */
export function savedIn<T>(text: string | null, read: (saved: unknown) => T | null): T | null {
  if (text === null) return null;
  try {
    return read(JSON.parse(text));
  } catch {
    return null;
  }
}
