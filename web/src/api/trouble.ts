type Listener = () => void;

let current: string | null = null;
const listeners = new Set<Listener>();

/** What keeps the pages from working at the moment, in a sentence; null when nothing does. */
export const trouble = {
  get: (): string | null => current,
  set: (sentence: string | null): void => {
    if (sentence === current) return;
    current = sentence;
    for (const listener of listeners) listener();
  },
  listen: (listener: Listener): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
};
