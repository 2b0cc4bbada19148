// npm run demo: the product on demo data, from a fresh clone on a fresh machine.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  keptSecret,
  needModules,
  needPackages,
  portTaken,
  ROOT,
  run,
  say,
  SetupError,
  startPostgres,
} from './machine.mjs';

const FOLDER = join(ROOT, '.data');
const PORT = Number(process.env.SIEVE_PORT ?? 4180);
const PG_PORT = Number(process.env.SIEVE_PG_PORT ?? 54180);

/** Until the program answers; a slow machine may take its time, but a program that has ended is not waited for. */
async function waitFor(url, program) {
  for (let i = 0; i < 1200 && program.exitCode === null; i++) {
    try {
      if ((await fetch(url)).ok) return;
    } catch (error) {
      if (error.cause?.message === 'bad port')
        throw new SetupError(`Browsers refuse to open port ${PORT}. Set SIEVE_PORT to another one.`);
      // Otherwise: not yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  throw new SetupError(
    program.exitCode === null
      ? 'The program did not start within five minutes.'
      : 'The program ended before it answered; what it said is above.',
  );
}

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
  const env = {
    ...process.env,
    NODE_ENV: 'production',
    SIEVE_PORT: String(PORT),
    // On loopback, without TLS.
    SIEVE_SECURE_COOKIES: 'false',
    SIEVE_DATABASE_URL: database.url,
    SIEVE_SECRET: secret,
    SIEVE_LOG_LEVEL: process.env.SIEVE_LOG_LEVEL ?? 'warn',
  };
  // What it prints for a server without an administrator is of no use here: the demo makes one.
  server = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
    env,
    stdio: ['ignore', 'inherit', 'pipe'],
  });
  server.stderr.on('data', (text) => {
    if (!String(text).startsWith('This server has no administrator')) process.stderr.write(text);
  });
  const stop = () => {
    server.kill('SIGTERM');
    setTimeout(() => {
      database.stop();
      process.exit();
    }, 1500);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, stop);
  const address = `http://127.0.0.1:${PORT}`;
  await waitFor(`${address}/api/v1/session`, server);
  if (!existsSync(loaded)) {
    say('Loading the demo course …');
    writeFileSync(loading, '');
    const link = run(process.execPath, [join(ROOT, 'server/dist/administer.js'), 'first'], { env }).trim();
    writeFileSync(loaded, run(process.execPath, [join(ROOT, 'demo/dist/main.js'), address, link]));
  }
  say(`\nModest Sieve runs at ${address}\n\n${readFileSync(loaded, 'utf8')}\nStop it with Ctrl+C.`);
} catch (error) {
  console.error(error instanceof SetupError ? `\n${error.message}` : error);
  server?.kill('SIGTERM');
  database?.stop();
  process.exit(1);
}
