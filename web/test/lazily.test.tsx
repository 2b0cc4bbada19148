/** @jest-environment jsdom */
import { afterEach, expect, it } from '@jest/globals';
import { cleanup, screen } from '@testing-library/react';
import { Suspense } from 'react';
import { lazily } from '../src/kit/lazily.js';
import { draw } from './draw.js';

afterEach(cleanup);

const Fetched = ({ name }: { name: string }) => <p>drawn for {name}</p>;

it('a part of a page is drawn once it was fetched', async () => {
  const Part = lazily(() => Promise.resolve({ Fetched, other: 7 }), 'Fetched');
  draw(
    <Suspense fallback="waiting">
      <Part name="Ines" />
    </Suspense>,
  );
  expect(await screen.findByText('drawn for Ines')).toBeTruthy();
});

it('one that cannot be fetched leaves the rest of the page as it is', async () => {
  const Part = lazily(
    (): Promise<{ Fetched: typeof Fetched }> => Promise.reject(new Error('away')),
    'Fetched',
  );
  const { user } = draw(
    <>
      <input aria-label="typed" />
      <Suspense fallback="waiting">
        <Part name="Ines" />
      </Suspense>
    </>,
  );
  await user.type(screen.getByLabelText('typed'), 'kept');
  expect((await screen.findByText(/could not be fetched/)).textContent).toContain('Reload the page');
  expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('kept');
});
