import { trialMetrics } from '@modest-sieve/core/evaluation';
import type { Task } from '@modest-sieve/core/data';
import { useState } from 'react';

/** Metrics beside the one that runs are judged by, at most. */
export const MOST_ALSO = 6;

const keyOf = (task: Task): string => `metrics-of-runs:${task}`;

/** What was remembered: metrics that judge the task, each once. */
export function alsoIn(saved: string | null, task: Task): string[] {
  let read: unknown = null;
  try {
    read = JSON.parse(saved ?? 'null');
  } catch {
    return [];
  }
  if (!Array.isArray(read)) return [];
  const known = trialMetrics(task).filter(({ key }) => read.includes(key));
  return known.slice(0, MOST_ALSO).map(({ key }) => key);
}

/** The metrics that the table of runs shows beside the first, remembered in this browser for each kind of task. */
export function useAlsoShown(task: Task): [readonly string[], (keys: readonly string[]) => void] {
  const [keys, setKeys] = useState(() => alsoIn(localStorage.getItem(keyOf(task)), task));
  return [
    keys,
    (next) => {
      const text = JSON.stringify(next);
      localStorage.setItem(keyOf(task), text);
      setKeys(alsoIn(text, task));
    },
  ];
}
