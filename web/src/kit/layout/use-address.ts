import { useSearchParams } from 'react-router';

/** What the page's address says after its question mark, and a way to change some of it; an empty text takes a part out. */
export function useAddressed(): {
  search: URLSearchParams;
  change: (changes: Readonly<Record<string, string>>) => void;
} {
  const [search, setSearch] = useSearchParams();
  const change = (changes: Readonly<Record<string, string>>) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        for (const [key, value] of Object.entries(changes)) {
          if (value === '') next.delete(key);
          else next.set(key, value);
        }
        return next;
      },
      { replace: true },
    );
  return { search, change };
}
