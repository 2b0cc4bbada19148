import { useRef, useState } from 'react';
import type { Address } from '../api/address.js';
import { ApiProblem, send } from '../api/client.js';

interface Sending {
  readonly send: (file: File) => void;
  /** Files that are on their way or wait for their turn. */
  readonly left: number;
  /** What went wrong, with the name of the file. */
  readonly problems: readonly string[];
}

/** Sends files one after another; one that fails does not hold up the others. */
export function useSending(url: Address<'/api/v1/courses/{course}/data-sets'>): Sending {
  const last = useRef<Promise<void>>(Promise.resolve());
  const [left, setLeft] = useState(0);
  const [problems, setProblems] = useState<readonly string[]>([]);
  const sendOne = async (file: File) => {
    const form = new FormData();
    form.set('file', file);
    try {
      await send('post', url, form);
    } catch (error) {
      const words = error instanceof ApiProblem ? error.message : String(error);
      setProblems((before) => [...before, `${file.name}: ${words}`]);
    }
    setLeft((before) => before - 1);
  };
  return {
    send: (file) => {
      if (left === 0) setProblems([]);
      setLeft((before) => before + 1);
      last.current = last.current.then(() => sendOne(file));
    },
    left,
    problems,
  };
}
