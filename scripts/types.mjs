// Checks the types of every workspace, each with the libraries that it may know, and of these scripts.
import { join } from 'node:path';
import { ROOT, run } from './machine.mjs';

try {
  for (const project of ['core', 'cli', 'server', 'web', 'demo', 'e2e', 'scripts'])
    run(process.execPath, [join(ROOT, 'node_modules/typescript-7/bin/tsc'), '-p', project, '--noEmit']);
} catch (error) {
  console.error(error.message);
  process.exitCode = 1;
}
