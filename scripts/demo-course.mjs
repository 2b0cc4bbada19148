// The built program, and the demo course on it: for `npm run demo` and for the browser tests.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { ROOT, run, SetupError } from './machine.mjs';

/** Until the program answers; a slow machine may take its time, but a program that has ended is not waited for. */
async function answers(address, program) {
  for (let i = 0; i < 1200 && program.exitCode === null; i++) {
    try {
      if ((await fetch(`${address}/api/v1/session`)).ok) return;
    } catch (error) {
      if (error.cause?.message === 'bad port')
        throw new SetupError(`Browsers refuse to open ${address}. Set SIEVE_PORT to another port.`);
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

/**
 * Starts the program on loopback, without TLS.
 *
 * @param database as startPostgres gives it
 * @returns where it answers, its process, what its commands need to know, and a promise that it answers
 */
export function startProgram({ database, secret, port, level }) {
  const env = {
    ...process.env,
    NODE_ENV: 'production',
    SIEVE_PORT: String(port),
    SIEVE_SECURE_COOKIES: 'false',
    SIEVE_DATABASE_URL: database.url,
    SIEVE_SECRET: secret,
    SIEVE_LOG_LEVEL: level,
  };
  const address = `http://127.0.0.1:${port}`;
  const server = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
    env,
    stdio: ['ignore', 'inherit', 'pipe'],
  });
  // What it prints for a server without an administrator is of no use here: the demo makes one.
  server.stderr.on('data', (text) => {
    if (!String(text).startsWith('This server has no administrator')) process.stderr.write(text);
  });
  return { address, server, env, ready: answers(address, server) };
}

/**
 * Loads the demo course, in a process of its own.
 *
 * @param whole whether to wait for the models that are tried beside those that exercises need
 * @returns a promise of how to sign in
 */
export async function loadDemoCourse({ address, env }, { whole }) {
  const link = run(process.execPath, [join(ROOT, 'server/dist/administer.js'), 'first'], { env }).trim();
  const args = [join(ROOT, 'demo/dist/main.js'), address, link, ...(whole ? ['--whole'] : [])];
  const loading = spawn(process.execPath, args, { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'inherit'] });
  let said = '';
  loading.stdout.on('data', (text) => (said += String(text)));
  const [code] = await once(loading, 'close');
  if (code !== 0) throw new SetupError('The demo course could not be loaded; why is above.');
  return said;
}
