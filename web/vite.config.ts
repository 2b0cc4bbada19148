import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  resolve: {
    conditions: ['sieve-sources', ...defaultClientConditions],
    // The runtime of models without its parts for graphics cards, which are twice as large.
    alias: { 'onnxruntime-web': 'onnxruntime-web/wasm' },
  },
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': 'http://127.0.0.1:4180' } },
});
