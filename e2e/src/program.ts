import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { Someone, startBrowser } from './someone.js';

const root = (path: string) => fileURLToPath(new URL(`../../${path}`, import.meta.url));

/** The built program, running as `npm start` runs it, on the database that the environment names. */
export interface Program {
  readonly address: string;
  readonly stop: () => Promise<void>;
}

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => {
        resolve(typeof address === 'object' && address ? address.port : 0);
      });
    });
  });

export async function startProgram(onPort?: number): Promise<Program> {
  const port = onPort ?? (await freePort());
  const address = `http://127.0.0.1:${port}`;
  const child = spawn(process.execPath, [root('server/dist/main.js')], {
    env: { ...process.env, SIEVE_PORT: String(port), SIEVE_ROLE: 'all', NODE_OPTIONS: '' },
    stdio: 'inherit',
  });
  for (let i = 0; ; i++) {
    try {
      if ((await fetch(`${address}/api/v1/session`)).ok) break;
    } catch (error) {
      if (i > 600) throw error;
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  // Anybody of these tests may be an instructor.
  await administer('course-makers', 'anyone');
  const ended = new Promise<void>((resolve) => {
    child.once('exit', () => {
      resolve();
    });
  });
  return {
    address,
    stop: () => {
      child.kill('SIGTERM');
      return ended;
    },
  };
}

/** The program with an instructor and a student, each at a window of their own. */
export interface Stage {
  readonly instructor: Someone;
  readonly student: Someone;
  readonly end: () => Promise<void>;
}

export async function setStage(): Promise<Stage> {
  const program = await startProgram();
  const browser = await startBrowser();
  return {
    instructor: await Someone.at(browser, program.address),
    student: await Someone.at(browser, program.address),
    end: async () => {
      await browser.close();
      await program.stop();
    },
  };
}

/** What the administrator's command answers, on the database that the environment names. */
async function administer(...args: readonly string[]): Promise<string> {
  const { stdout } = await promisify(execFile)(
    process.execPath,
    [root('server/dist/administer.js'), ...args],
    { env: { ...process.env, NODE_OPTIONS: '' } },
  );
  return stdout.trim();
}

export const openData = (name: string): string => root(`core/test/open-data/${name}`);

/** A file with the given contents, to be dropped somewhere. */
export function fileWith(name: string, contents: string | Uint8Array): string {
  const path = join(mkdtempSync(join(tmpdir(), 'sieve-e2e-')), name);
  writeFileSync(path, contents);
  return path;
}
