// npm run demo: the product on demo data, from a fresh clone on a fresh machine.
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadDemoCourse, startProgram } from './demo-course.mjs';
import {
  keptSecret,
  needModules,
  needPackages,
  portTaken,
  ROOT,
  say,
  SetupError,
  startPostgres,
} from './machine.mjs';

const FOLDER = join(ROOT, '.data');
const PORT = Number(process.env.SIEVE_PORT ?? 4180);
const PG_PORT = Number(process.env.SIEVE_PG_PORT ?? 54180);

let database;
let server;
try {
  const loaded = join(FOLDER, 'demo-loaded');
  const loading = join(FOLDER, 'demo-loading');
  // A demo that was cut off while it was being loaded is of no use: it begins again.
  const fresh = process.argv.includes('--fresh') || (existsSync(loading) && !existsSync(loaded));
  if (await portTaken(PORT))
    throw new SetupError(`Port ${PORT} is taken by another program. Set SIEVE_PORT to a free one.`);
  needPackages(['postgresql']);
  needModules();
  const { build } = await import('./build.mjs');
  build();
  let secret = keptSecret(FOLDER);
  database = await startPostgres({ folder: FOLDER, port: PG_PORT, secret });
  if (fresh) {
    database.stop();
    while (await portTaken(PG_PORT)) await new Promise((resolve) => setTimeout(resolve, 200));
    rmSync(database.data, { recursive: true, force: true });
    rmSync(FOLDER, { recursive: true, force: true });
    secret = keptSecret(FOLDER);
    database = await startPostgres({ folder: FOLDER, port: PG_PORT, secret });
  }
  const program = startProgram({
    database,
    secret,
    port: PORT,
    level: process.env.SIEVE_LOG_LEVEL ?? 'warn',
  });
  server = program.server;
  const stop = () => {
    server.kill('SIGTERM');
    setTimeout(() => {
      database.stop();
      process.exit();
    }, 1500);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, stop);
  await program.ready;
  if (!existsSync(loaded)) {
    say('Loading the demo course …');
    writeFileSync(loading, '');
    writeFileSync(loaded, await loadDemoCourse(program, { whole: false }));
  }
  say(`\nModest Sieve runs at ${program.address}\n\n${readFileSync(loaded, 'utf8')}\nStop it with Ctrl+C.`);
} catch (error) {
  console.error(error instanceof SetupError ? `\n${error.message}` : error);
  server?.kill('SIGTERM');
  database?.stop();
  process.exit(1);
}
