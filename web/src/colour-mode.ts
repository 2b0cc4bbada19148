import { useSyncExternalStore } from 'react';

type Mode = 'light' | 'dark';

const KEY = 'colour-mode';
const listeners = new Set<() => void>();

function current(): Mode {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

/** Puts the mode on the document, where the theme reads it. Called before the first paint. */
export function applyColourMode(): void {
  document.documentElement.classList.remove('light', 'dark');
  document.documentElement.classList.add(current());
  document.documentElement.style.colorScheme = current();
}

/** The mode in force and a function that changes to the other; the system's preference until one is chosen. */
export function useColourMode(): { mode: Mode; change: () => void } {
  const mode = useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, current);
  const change = () => {
    localStorage.setItem(KEY, mode === 'dark' ? 'light' : 'dark');
    applyColourMode();
    for (const listener of listeners) listener();
  };
  return { mode, change };
}
