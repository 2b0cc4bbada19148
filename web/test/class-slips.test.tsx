/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { ClassSlips } from '../src/submissions/class-slips.js';
import { draw } from './draw.js';

afterEach(cleanup);

const made = (n: number) =>
  Array.from({ length: n }, (_, i) => ({ id: `s${i}`, name: `Student ${i}`, submission: `a${i}` }));

const SLIPS = [
  { question: 'q1', id: 'rows-shifted', title: 'rows shifted', students: made(14) },
  { question: 'q2', id: 'constant', title: 'the same prediction everywhere', students: made(1) },
];

it('mistakes of a question are counted, and lead to the answers in which they were made', () => {
  draw(
    <MemoryRouter>
      <ClassSlips slips={SLIPS} question="q1" to={(id) => `/answers/${id}`} />
    </MemoryRouter>,
  );
  const table = screen.getByRole('table', { name: 'Known mistakes' });
  expect(within(table).getByText('14')).toBeTruthy();
  expect(within(table).queryByText('the same prediction everywhere')).toBeNull();
  expect(within(table).getByText('Student 3').getAttribute('href')).toBe('/answers/a3');
  expect(within(table).getByText(/and 2 others/)).toBeTruthy();
});

it('a question without any has no table', () => {
  draw(
    <MemoryRouter>
      <ClassSlips slips={SLIPS} question="q3" to={(id) => id} />
    </MemoryRouter>,
  );
  expect(screen.queryByRole('table')).toBeNull();
});
