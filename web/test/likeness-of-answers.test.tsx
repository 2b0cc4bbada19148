/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { Likeness } from '../src/submissions/likeness-of-answers.js';
import { draw } from './draw.js';

afterEach(cleanup);

const NAMES = ['Orla Fenn', 'Perrin Shaw', 'Una Whitlock'];
type Shown = Parameters<typeof Likeness>[0];
const view = {
  lines: NAMES.map((name, i) => ({ person: { id: `p${i}`, name } })),
  submissions: NAMES.map((_, i) => ({ id: `a${i}`, personId: `p${i}` })),
} as unknown as Shown['view'];

const drawn = (found: Partial<Shown['found']>) =>
  draw(
    <MemoryRouter>
      <Likeness
        found={{ compared: 3, leftOut: 0, typed: null, files: null, same: [], ...found }}
        view={view}
        to={(answer) => `/answers/${answer}`}
      />
    </MemoryRouter>,
  );

it('says that nothing was found, and what could not be judged', () => {
  drawn({ typed: { compared: 2, tooCommon: 1, found: [] } });
  const text = screen.getByText(/3 answers compared/).textContent;
  expect(text).toContain('None is so like another');
  expect(text).toContain('1 answer with wrong numbers could not be judged');
});

it('says of other kinds of questions that nothing is compared', () => {
  drawn({});
  const text = screen.getByText(/are not compared but for the same files/).textContent;
  expect(text).not.toContain('None is so like');
  cleanup();
  drawn({ files: [] });
  expect(screen.getByText(/Files of labels, or of few different numbers, .* left out/)).toBeTruthy();
});

it('shows an answer that is right for another student, and asks before anything is concluded', () => {
  drawn({ typed: { compared: 2, tooCommon: 0, found: [{ answer: 'a1', student: 'p1', other: 'p0' }] } });
  expect(screen.getByText(/Ask before you conclude/)).toBeTruthy();
  const table = screen.getByRole('table', { name: 'Numbers that are right for another student' });
  expect(within(table).getByRole('link', { name: 'Perrin Shaw' }).getAttribute('href')).toBe('/answers/a1');
  expect(within(table).getByText('Orla Fenn')).toBeTruthy();
});

it('shows files side by side in the rows in which they differ, under all who are linked', () => {
  const rows = [{ identifier: 'HL-0017', first: 0.25, second: 0.75 }];
  const pair = { same: 97, differing: 3, rows };
  drawn({
    files: [
      { first: 'a0', second: 'a1', ...pair },
      { first: 'a1', second: 'a2', ...pair },
    ],
    same: [['a0', 'a2']],
  });
  expect(screen.getByText('Orla Fenn, Perrin Shaw, Una Whitlock')).toBeTruthy();
  const table = screen.getByRole('table', { name: 'Rows in which Orla Fenn and Perrin Shaw differ' });
  expect(within(table).getByText('HL-0017')).toBeTruthy();
  expect(within(table).getByRole('link', { name: '0.75' }).getAttribute('href')).toBe('/answers/a1');
  expect(screen.getAllByText(/the same in 97 rows, other in 3; the first 1 of them/)).toHaveLength(2);
  expect(screen.getByText(/says nothing by itself/)).toBeTruthy();
});
