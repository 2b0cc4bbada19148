import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { firstAdministratorLink } from './administration/first-administrator.js';
import { ConfigError, readConfig, type Config } from './platform/config/config.js';
import { migrate } from './assembly/migrate.js';
import { log } from './platform/operation/log.js';
import { startWeb, startWorker } from './assembly/start.js';

const RESTART_AFTER = 1000;

/** Starts a process of one role, and another one whenever it ends before it was asked to. */
function keepAlive(role: 'web' | 'worker'): () => void {
  let child: ChildProcess;
  let stopping = false;
  const start = () => {
    child = fork(fileURLToPath(import.meta.url), {
      env: { ...process.env, SIEVE_ROLE: role, SIEVE_BESIDE_WEB: 'true' },
    });
    child.once('exit', (code) => {
      if (stopping) return;
      log.error(`The ${role} process ended (${code ?? 'by a signal'}); another one starts.`);
      setTimeout(start, RESTART_AFTER);
    });
  };
  start();
  return () => {
    stopping = true;
    child.kill('SIGTERM');
  };
}

/** A server without an administrator prints the link by which the first one is made. */
async function printFirstLink(config: Config): Promise<void> {
  const client = new pg.Client({ connectionString: config.ownerUrl });
  await client.connect();
  try {
    const path = await firstAdministratorLink(
      async (text, values) => (await client.query<Record<string, unknown>>(text, values)).rows,
    );
    if (path !== null)
      // For the person who starts the program, and not for what collects its log.
      console.error(
        `This server has no administrator. Become it within a day, once: http://${config.host}:${config.port}${path}`,
      );
  } finally {
    await client.end();
  }
}

try {
  const config = readConfig();
  await migrate(config);
  if (config.role !== 'worker' && !config.besideWeb) await printFirstLink(config);
  if (config.role === 'all') {
    const stops = [keepAlive('web'), keepAlive('worker')];
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.once(signal, () => stops.forEach((stop) => stop()));
  } else {
    // Under the role “all” the parent has migrated already; migrating again changed nothing.
    await (config.role === 'web' ? startWeb() : startWorker());
  }
} catch (error) {
  // A wrong configuration is read by the person who starts the program, not by what collects logs.
  if (error instanceof ConfigError) console.error(error.message);
  else log.fatal(error instanceof Error ? (error.stack ?? error.message) : String(error));
  process.exitCode = 1;
}
