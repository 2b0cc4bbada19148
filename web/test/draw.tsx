import { ChakraProvider } from '@chakra-ui/react';
import { render, type RenderResult } from '@testing-library/react';
import { userEvent, type UserEvent } from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { system } from '../src/theme.js';

/** Draws a part of a page as the pages do, in a document of its own, with somebody who uses it. */
export function draw(part: ReactNode): Pick<RenderResult, 'rerender'> & { readonly user: UserEvent } {
  const { rerender } = render(part, { wrapper: Page });
  return { rerender, user: userEvent.setup() };
}

const Page = ({ children }: { children: ReactNode }) => (
  <ChakraProvider value={system}>{children}</ChakraProvider>
);
