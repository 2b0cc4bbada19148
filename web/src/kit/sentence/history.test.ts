import { describe, expect, it } from '@jest/globals';
import { NO_HISTORY, redone, remember, settled, undone, type History } from './history.js';

/** The history of typing and other changes: state, what is changed, milliseconds. */
const after = (...changes: [before: string, what: string | null, at: number][]): History<string> =>
  changes.reduce<History<string>>(
    (history, [before, what, at]) => remember(history, before, what, at),
    NO_HISTORY,
  );

describe('a history', () => {
  it('takes the digits of one number as one change', () => {
    const typed = after(['8', 'size', 0], ['', 'size', 300], ['2', 'size', 600], ['25', 'seed', 900]);
    expect(typed.past).toEqual(['8', '25']);
    expect(undone(typed, '25, seed 4')?.state).toBe('25');
  });

  it('takes changes that lie apart, and those of nothing in particular, as changes of their own', () => {
    expect(after(['a', 'size', 0], ['b', 'size', 5000]).past).toEqual(['a', 'b']);
    expect(after(['a', null, 0], ['b', null, 10]).past).toEqual(['a', 'b']);
    expect(remember(settled(after(['a', 'size', 0])), 'b', 'size', 10).past).toEqual(['a', 'b']);
  });

  it('redoes what was undone, until something else is changed', () => {
    const history = after(['a', 'x', 0], ['b', 'y', 10]);
    const once = undone(history, 'c');
    const twice = once && undone(once.history, once.state);
    expect([once?.state, twice?.state]).toEqual(['b', 'a']);
    expect(twice && undone(twice.history, twice.state)).toBeNull();
    const again = twice && redone(twice.history, twice.state);
    const last = again && redone(again.history, again.state);
    expect([again?.state, last?.state]).toEqual(['b', 'c']);
    expect(last && redone(last.history, last.state)).toBeNull();
    expect(last && undone(last.history, last.state)?.state).toBe('b');
    expect(twice && redone(remember(twice.history, 'a', 'x', 20), 'd')).toBeNull();
    // What is typed after an undo is not put to what was typed before it.
    expect(once && remember(once.history, 'b', 'y', 20).past).toEqual(['a', 'b']);
  });
});
