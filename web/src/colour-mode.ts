import { useSyncExternalStore } from 'react';

type Mode = 'light' | 'dark';

const KEY = 'colour-mode';
const DARK = '(prefers-color-scheme: dark)';
const listeners = new Set<() => void>();

function current(): Mode {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return matchMedia(DARK).matches ? 'dark' : 'light';
}

/** Puts the mode on the document, where the theme reads it. Called before the first paint. */
export function startColourMode(): void {
  matchMedia(DARK).addEventListener('change', apply);
  apply();
}

function apply(): void {
  document.documentElement.classList.remove('light', 'dark');
  document.documentElement.classList.add(current());
  document.documentElement.style.colorScheme = current();
  for (const listener of listeners) listener();
}

/** The mode in force and a function that changes to the other; the system's preference until one is chosen. */
export function useColourMode(): { mode: Mode; change: () => void } {
  const mode = useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, current);
  const change = () => {
    localStorage.setItem(KEY, mode === 'dark' ? 'light' : 'dark');
    apply();
  };
  return { mode, change };
}
