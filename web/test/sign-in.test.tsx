/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { SignInPage } from '../src/pages/sign-in.js';
import { draw } from './draw.js';

afterEach(cleanup);

const drawn = () =>
  draw(
    <MemoryRouter>
      <SignInPage />
    </MemoryRouter>,
  );

it('says which lines were left empty, and goes to the first of them', async () => {
  const { user } = drawn();
  await user.type(screen.getByLabelText('Password'), 'hollow-lane-bees');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect(screen.getByRole('alert').textContent).toBe('Give your address.');
  expect(document.activeElement).toBe(screen.getByLabelText('Address'));
});

it('asks for a name where an account is made, and keeps what was typed', async () => {
  const { user } = drawn();
  await user.type(screen.getByLabelText('Address'), 'new@hollow-lane.example');
  await user.click(screen.getByRole('button', { name: 'I am new here' }));
  await user.click(screen.getByRole('button', { name: 'Make the account' }));
  expect(screen.getAllByRole('alert').map(({ textContent }) => textContent)).toEqual([
    'Give your name.',
    'Give your password.',
  ]);
  expect(screen.getByLabelText<HTMLInputElement>('Address').value).toBe('new@hollow-lane.example');
});
