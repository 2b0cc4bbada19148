/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { ApiProblem } from '../src/api/client.js';
import { UnfinishedChecks } from '../src/submissions/unfinished-checks.js';
import { draw } from './draw.js';

afterEach(cleanup);

const answers = (...outcomes: ('checked' | 'refused' | 'failed' | 'waiting')[]) =>
  outcomes.map((outcome) => ({ outcome }));

it('is not there where every check has finished or is under way', () => {
  draw(
    <UnfinishedChecks
      submissions={answers('checked', 'refused', 'waiting')}
      onAgain={() => Promise.resolve()}
    />,
  );
  expect(screen.queryByRole('group')).toBeNull();
});

it('says how many did not finish, and has them checked again; what stands in the way is said', async () => {
  let asked = 0;
  const { user } = draw(
    <UnfinishedChecks
      submissions={answers('failed', 'checked', 'failed')}
      onAgain={() => Promise.reject(new ApiProblem(409, 'returned', `asked ${String(++asked)} times`))}
    />,
  );
  expect(screen.getByRole('group').textContent).toContain('2 checks of this exercise did not finish.');
  await user.click(screen.getByRole('button', { name: 'check them all again' }));
  expect((await screen.findByText('asked 1 times')).textContent).toBeTruthy();
});
