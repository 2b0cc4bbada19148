import { afterEach, beforeEach, expect, it, jest } from '@jest/globals';
import { paced } from './paced.js';

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

/** Work that takes so many milliseconds, and counts how often it is done and how often at once. */
function workOf(milliseconds: number, fails = false) {
  const seen = { done: 0, atOnce: 0, most: 0 };
  const work = async () => {
    seen.atOnce++;
    seen.most = Math.max(seen.most, seen.atOnce);
    await new Promise((resolve) => setTimeout(resolve, milliseconds));
    seen.atOnce--;
    seen.done++;
    if (fails) throw new Error('away');
  };
  return { seen, work };
}

it('is done at once, and again for all calls while it is under way', async () => {
  const { seen, work } = workOf(100);
  const call = paced(work);
  for (let i = 0; i < 50; i++) call();
  await jest.advanceTimersByTimeAsync(100);
  expect(seen.done).toBe(1);
  await jest.advanceTimersByTimeAsync(10_000);
  expect(seen).toMatchObject({ done: 2, most: 1 });
  call();
  await jest.advanceTimersByTimeAsync(100);
  expect(seen.done).toBe(3);
});

it('takes half of the time at most, however often it is called', async () => {
  const { seen, work } = workOf(1000);
  const call = paced(work);
  for (let i = 0; i < 1000; i++) {
    call();
    await jest.advanceTimersByTimeAsync(20);
  }
  // Twenty seconds of one second each, with as long between them.
  expect(seen.done).toBe(10);
  expect(seen.most).toBe(1);
});

it('goes on after it failed', async () => {
  const { seen, work } = workOf(10, true);
  const call = paced(work);
  call();
  await jest.advanceTimersByTimeAsync(1000);
  call();
  await jest.advanceTimersByTimeAsync(1000);
  expect(seen.done).toBe(2);
});
