import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { afterAll } from '@jest/globals';

const MAIN = fileURLToPath(new URL('../../dist/main.js', import.meta.url));

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const address = server.address();
  server.close();
  return typeof address === 'object' && address ? address.port : 0;
}

/** None outlives the tests of its file, whichever way they end. */
const running = new Set<ChildProcess>();
afterAll(() => running.forEach((child) => child.kill('SIGKILL')));

/** A process of the built program, which can be killed as the fault would kill it. */
export interface OwnProcess {
  readonly address: string;
  /** What it has logged. */
  readonly log: () => string;
  readonly kill: (signal?: NodeJS.Signals) => Promise<void>;
}

/** Starts a web or a worker process and waits until it is ready. */
export async function startProcess(role: 'web' | 'worker', env: NodeJS.ProcessEnv = {}): Promise<OwnProcess> {
  const [port, watch] = [await freePort(), await freePort()];
  const child: ChildProcess = spawn(process.execPath, [MAIN], {
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      SIEVE_ROLE: role,
      SIEVE_PORT: String(port),
      SIEVE_OPERATION_PORT: String(watch),
      ...env,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  running.add(child);
  child.once('exit', () => running.delete(child));
  let logged = '';
  child.stdout?.on('data', (chunk: Buffer) => (logged += chunk.toString('utf8')));
  const ended = once(child, 'exit');
  for (let i = 0; ; i++) {
    const ready = await fetch(`http://127.0.0.1:${watch}/ready`).then(
      ({ ok }) => ok,
      () => false,
    );
    if (ready) break;
    if (i > 600) throw new Error(`the ${role} process did not become ready within a minute`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return {
    address: `http://127.0.0.1:${port}`,
    log: () => logged,
    kill: async (signal = 'SIGKILL') => {
      child.kill(signal);
      await ended;
    },
  };
}
