/** States to go back to and forward to. */
export interface History<S> {
  /** The latest last. */
  readonly past: readonly S[];
  /** The next one last. */
  readonly future: readonly S[];
  /** What was changed last, and when in milliseconds. */
  readonly last: { readonly what: string; readonly at: number } | null;
}

const MOST_UNDONE = 100;
/** Milliseconds within which changes of one thing are one change: the digits of a number, the letters of a word. */
const AT_ONCE = 2000;

export const NO_HISTORY: History<never> = { past: [], future: [], last: null };

/**
 * The history after a change.
 *
 * @param before the state that was changed
 * @param what names what was changed; null for a change that is a step by itself
 */
export function remember<S>(
  { past, last }: History<S>,
  before: S,
  what: string | null,
  now: number = Date.now(),
): History<S> {
  const goesOn = last !== null && last.what === what && now - last.at < AT_ONCE;
  return {
    past: goesOn ? past : [...past, before].slice(-MOST_UNDONE),
    future: [],
    last: what === null ? null : { what, at: now },
  };
}

/** The history once the control that was changed is left: what comes next is another change. */
export const settled = <S>(history: History<S>): History<S> =>
  history.last === null ? history : { ...history, last: null };

interface Moved<S> {
  readonly state: S;
  readonly history: History<S>;
}

/** The state before the last change; null where there is none. */
export function undone<S>({ past, future }: History<S>, now: S): Moved<S> | null {
  const state = past.at(-1);
  if (state === undefined) return null;
  return { state, history: { past: past.slice(0, -1), future: [...future, now], last: null } };
}

/** The state that was undone last; null where there is none. */
export function redone<S>({ past, future }: History<S>, now: S): Moved<S> | null {
  const state = future.at(-1);
  if (state === undefined) return null;
  return { state, history: { past: [...past, now], future: future.slice(0, -1), last: null } };
}
