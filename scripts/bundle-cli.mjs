// Bundles the command line: one file to load at the start, and one for each part that few commands need.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ROOT } from './machine.mjs';

const outdir = join(ROOT, 'cli/dist');
rmSync(outdir, { recursive: true, force: true });
await build({
  absWorkingDir: ROOT,
  entryPoints: ['cli/src/main.ts', 'cli/src/threads.ts', 'cli/src/thread.worker.ts'],
  outdir,
  bundle: true,
  splitting: true,
  minify: true,
  keepNames: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  conditions: ['sieve-sources'],
  // It finds its WebAssembly beside itself.
  external: ['onnxruntime-web'],
  // Some packages are CommonJS and ask for parts of Node.
  banner: {
    js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
  },
});
