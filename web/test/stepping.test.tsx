/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { MemoryRouter, useLocation } from 'react-router';
import { useStepping } from '../src/submissions/use-stepping.js';
import { draw } from './draw.js';

function Page() {
  const { pathname, search } = useLocation();
  const opened = pathname.slice(1) || null;
  const { place } = useStepping(
    { all: ['a1', 'a2', 'b1', 'c1'], counting: ['a2', 'c1'] },
    opened,
    (id) => `/${id}${search}`,
  );
  return <output>{`${opened ?? 'none'}${search} ${place}`}</output>;
}

const at = (address: string) =>
  draw(
    <MemoryRouter initialEntries={[address]}>
      <Page />
    </MemoryRouter>,
  );
const shown = () => screen.getByRole('status').textContent;
const press = (key: string) => fireEvent.keyDown(document.body, { key });

afterEach(cleanup);

it('[ and ] step through all submissions, and keep what the address narrows the list to', () => {
  at('/a2?show=late');
  press(']');
  expect(shown()).toBe('b1?show=late [ 3 of 4 ]');
  press('[');
  press('[');
  press('[');
  expect(shown()).toBe('c1?show=late [ 4 of 4 ]');
});

it('j and k step through those that count, also from one that does not', () => {
  at('/a2');
  press('j');
  expect(shown()).toBe('c1 [ 4 of 4 ]');
  press('j');
  expect(shown()).toBe('a2 [ 2 of 4 ]');
  press('[');
  press('k');
  expect(shown()).toBe('c1 [ 4 of 4 ]');
});

it('begin at either end where nothing is opened', () => {
  at('/');
  press('k');
  expect(shown()).toBe('c1 [ 4 of 4 ]');
});
