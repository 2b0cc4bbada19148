import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { ConfigError, readConfig } from './platform/config/config.js';
import { migrate } from './platform/database/migrate.js';
import { startWeb, startWorker } from './start.js';

const RESTART_AFTER = 1000;

/** Starts a process of one role, and another one whenever it ends before it was asked to. */
function keepAlive(role: 'web' | 'worker'): () => void {
  let child: ChildProcess;
  let stopping = false;
  const start = () => {
    child = fork(fileURLToPath(import.meta.url), { env: { ...process.env, SIEVE_ROLE: role } });
    child.once('exit', (code) => {
      if (stopping) return;
      console.error(`The ${role} process ended (${code ?? 'by a signal'}); another one starts.`);
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
  console.error(error instanceof ConfigError ? error.message : error);
  process.exitCode = 1;
}
