// Bundles what the server's worker threads load, so that a thread reads a few files at its start and not hundreds.
import { build } from 'esbuild';
import { ROOT } from './machine.mjs';

await build({
  absWorkingDir: ROOT,
  entryPoints: ['server/dist/assembly/task.worker.js'],
  outfile: 'server/dist/task-bundle.js',
  bundle: true,
  keepNames: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  // The one finds its WebAssembly beside itself, the other has to be that of the thread's caller.
  external: ['onnxruntime-web', 'piscina'],
  banner: {
    js: "import { createRequire as requireOf } from 'node:module'; const require = requireOf(import.meta.url);",
  },
});
