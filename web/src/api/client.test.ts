import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { api } from './address.js';
import { ask, OVERTAKEN } from './client.js';

const QUESTION = api('/api/v1/courses/{course}/data-sets/{dataSet}/trials/{trial}/case', {
  course: 'c',
  dataSet: 'd',
  trial: 't',
});
const CASE = { cells: {} };

afterEach(() => {
  jest.restoreAllMocks();
});

describe('a question that is given up', () => {
  it.each([
    [OVERTAKEN, 'overtaken'],
    ['by hand', 'stopped'],
  ])('because of %j is %s', async (reason, code) => {
    jest.spyOn(globalThis, 'fetch').mockRejectedValue(new TypeError('aborted'));
    await expect(ask(QUESTION, CASE, AbortSignal.abort(reason))).rejects.toMatchObject({ status: 0, code });
  });

  it('is told from a server that cannot be reached', async () => {
    jest.spyOn(globalThis, 'fetch').mockRejectedValue(new TypeError('no network'));
    await expect(ask(QUESTION, CASE, new AbortController().signal)).rejects.toMatchObject({
      code: 'unreachable',
    });
  });
});
