import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { ConfigError, readConfig } from './platform/config/config.js';
import { migrate } from './platform/database/migrate.js';
import { log } from './platform/operation/log.js';
import { startWeb, startWorker } from './start.js';

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

try {
  const config = readConfig();
  if (config.role === 'all') {
    await migrate(config);
    const stops = [keepAlive('web'), keepAlive('worker')];
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.once(signal, () => stops.forEach((stop) => stop()));
  } else {
    // Under the role “all” the parent has migrated already; migrating again changes nothing.
    await migrate(config);
    await (config.role === 'web' ? startWeb() : startWorker());
  }
} catch (error) {
  // A wrong configuration is read by the person who starts the program, not by what collects logs.
  if (error instanceof ConfigError) console.error(error.message);
  else log.fatal(error instanceof Error ? (error.stack ?? error.message) : String(error));
  process.exitCode = 1;
}
