import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig, type Plugin } from 'vite';

/** What every page shows its text in; other alphabets are fetched where they are met. */
const FIRST_FONTS = /^(atkinson-hyperlegible-next|source-serif-4)-latin-wght-normal\b.*\.woff2$/;

/** Has the browser fetch the first fonts beside the styles that name them. */
const preloadFonts: Plugin = {
  name: 'preload-fonts',
  transformIndexHtml: (_, { bundle = {} }) =>
    Object.keys(bundle)
      .filter((file) => FIRST_FONTS.test(file.replace('assets/', '')))
      .map((file) => ({
        tag: 'link',
        attrs: { rel: 'preload', as: 'font', type: 'font/woff2', href: `/${file}`, crossorigin: true },
        injectTo: 'head',
      })),
};

export default defineConfig({
  plugins: [react(), preloadFonts],
  resolve: {
    conditions: ['sieve-sources', ...defaultClientConditions],
    // The runtime of models without its parts for graphics cards, which are twice as large.
    alias: { 'onnxruntime-web': 'onnxruntime-web/wasm' },
  },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    rolldownOptions: {
      output: {
        codeSplitting: {
          // What many pages share comes in few files: each costs a request of its own.
          groups: [
            {
              name: 'library',
              test: /node_modules\/(react|react-dom|scheduler|react-router|swr|@emotion|stylis)\//,
              priority: 2,
            },
            { name: 'kit', test: /web\/src\/(kit\/(?!plot)|api|frame)/, minShareCount: 8, priority: 1 },
            { name: 'core', test: /core\/src\//, minShareCount: 8 },
          ],
        },
      },
      // The component library defines all its styles by these, which only return what they are given.
      treeshake: {
        manualPureFunctions: ['defineConfig', 'defineRecipe', 'defineSlotRecipe', 'createAnatomy'],
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4180' } },
});
