import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css';
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource-variable/source-serif-4/wght.css';
import { ChakraProvider } from '@chakra-ui/react';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { startColourMode } from './colour-mode.js';
import { router } from './routes.js';
import { system } from './theme.js';

startColourMode();
const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <ChakraProvider value={system}>
        <RouterProvider router={router} />
      </ChakraProvider>
    </StrictMode>,
  );
}
