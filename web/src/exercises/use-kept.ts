import { useEffect, useState } from 'react';

/** State that survives a reload of the page under a key, until it is let go. */
export function useKept<T>(key: string, start: T): [T, (value: T) => void, () => void] {
  const [value, setValue] = useState<T>(() => {
    const kept = sessionStorage.getItem(key);
    return kept === null ? start : (JSON.parse(kept) as T);
  });
  useEffect(() => {
    if (value !== start) sessionStorage.setItem(key, JSON.stringify(value));
  }, [key, value, start]);
  return [value, setValue, () => sessionStorage.removeItem(key)];
}
