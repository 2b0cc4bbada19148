// Builds the core, the command line, the server, the demo and the pages, each only if its sources changed since it was built.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, run, say } from './machine.mjs';

function hashOf(folders) {
  const hash = createHash('sha256');
  const visit = (path) => {
    for (const entry of readdirSync(path, { withFileTypes: true }).sort((a, b) =>
      a.name < b.name ? -1 : 1,
    )) {
      const full = join(path, entry.name);
      if (entry.isDirectory()) {
        if (!['node_modules', 'dist', 'test'].includes(entry.name)) visit(full);
      } else {
        hash.update(full.slice(ROOT.length)).update(readFileSync(full));
      }
    }
  };
  for (const folder of folders) visit(join(ROOT, folder));
  return hash.digest('hex');
}

const STEPS = [
  { workspace: 'core', sources: ['core'] },
  { workspace: 'cli', sources: ['core', 'cli'] },
  { workspace: 'server', sources: ['core', 'server'] },
  { workspace: 'demo', sources: ['core', 'demo'] },
  { workspace: 'web', sources: ['core', 'web'] },
];

export function build() {
  for (const { workspace, sources } of STEPS) {
    const stamp = join(ROOT, workspace, 'dist', '.sources');
    const hash = hashOf(sources);
    if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) continue;
    say(`Building ${workspace} …`);
    run('npm', ['run', 'build', '-w', workspace]);
    writeFileSync(stamp, hash);
  }
}

if (process.argv[1]?.endsWith('build.mjs')) {
  try {
    build();
  } catch (error) {
    console.error(error.message);
    process.exitCode = 1;
  }
}
