import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { check } from '@modest-sieve/core/foundation';
import type { ModelRun } from '@modest-sieve/core/assessment';
import type { ModelRequest } from '@modest-sieve/core/model-files';
import { Injectable } from '@nestjs/common';

/** What the process of a model reports. */
export type FromModel =
  | { readonly ready: true }
  /** What was found before the held-out rows were looked at. */
  | { readonly found: ModelRun }
  | { readonly run: ModelRun };

const MEBIBYTE = 2 ** 20;

/** What a model may take, beyond what the process takes that runs it. */
export const MODEL_LIMITS = {
  /** From when the model is given to it. */
  milliseconds: 20_000,
  /** Of resident memory, in bytes. */
  memory: 512 * MEBIBYTE,
} as const;

/** Milliseconds within which the process must have started. */
const START = 30_000;
/** Milliseconds between two looks at its memory. */
const LOOK = 50;
/** Bytes of a page of memory, on the platforms that have /proc. */
const PAGE = 4096;
/** Models that are run at a time by one process of the server. */
const AT_ONCE = 2;

/** As it is built, also for tests of the sources. */
const CHILD = fileURLToPath(new URL('../../../dist/platform/models/model-child.js', import.meta.url));

/** What the process may do: read the folders of the program's own code, and nothing else. */
export function permissions(): string[] {
  const server = dirname(dirname(dirname(CHILD)));
  const core = dirname(dirname(fileURLToPath(import.meta.resolve('@modest-sieve/core/tasks'))));
  const modules = join(dirname(core), 'node_modules');
  return [
    '--experimental-permission',
    ...[server, core, modules].map((folder) => `--allow-fs-read=${folder}/*`),
    '--no-warnings',
  ];
}

/**
 * Runs submitted models, each in a process of its own that has no network, no files but the program's own code, no
 * environment and a lower priority, and that is ended when it takes too long or too much memory. A model never harms the
 * server, another submission or the queue.
 */
@Injectable()
export class ModelProcesses {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  /** @param limits others than the usual ones in tests alone */
  async run(
    request: ModelRequest,
    signal: AbortSignal,
    limits: { readonly milliseconds: number; readonly memory: number } = MODEL_LIMITS,
  ): Promise<ModelRun> {
    while (this.running >= AT_ONCE) await new Promise<void>((resolve) => this.waiting.push(resolve));
    this.running++;
    try {
      signal.throwIfAborted();
      return await runApart(request, signal, limits);
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }
}

/** Why a process was ended, in words for its student. */
type Ended = 'time' | 'memory' | 'broke';

function runApart(
  request: ModelRequest,
  signal: AbortSignal,
  { milliseconds, memory }: { readonly milliseconds: number; readonly memory: number },
): Promise<ModelRun> {
  const child = fork(CHILD, [], {
    env: {},
    execArgv: [...permissions(), '--max-old-space-size=640'],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  return new Promise<ModelRun>((resolve, reject) => {
    let found: ModelRun | null = null;
    let before = 0;
    let isStarted = false;
    const timers: NodeJS.Timeout[] = [];
    const settle = (end: () => void) => {
      for (const timer of timers) clearTimeout(timer);
      signal.removeEventListener('abort', stop);
      child.removeAllListeners();
      child.on('error', () => undefined);
      child.kill('SIGKILL');
      end();
    };
    const stop = () => settle(() => reject(signal.reason as Error));
    const ended = (why: Ended) => settle(() => resolve(endedRun(found, why, { milliseconds, memory })));
    signal.addEventListener('abort', stop, { once: true });
    timers.push(
      setTimeout(() => {
        if (!isStarted) settle(() => reject(new Error('the process of a model did not start')));
      }, START),
    );
    child.on('error', (error) => settle(() => reject(error)));
    child.on('exit', () => {
      if (isStarted) ended('broke');
      else settle(() => reject(new Error('the process of a model did not start')));
    });
    child.on('message', (message: FromModel) => {
      if ('run' in message) settle(() => resolve(message.run));
      else if ('found' in message) found = message.found;
      else {
        isStarted = true;
        lower(child);
        before = memoryOf(child);
        timers.push(setTimeout(() => ended('time'), milliseconds));
        timers.push(
          setInterval(() => {
            if (memoryOf(child) - before > memory) ended('memory');
          }, LOOK),
        );
        child.send(request);
      }
    });
  });
}

function lower({ pid }: ChildProcess): void {
  try {
    if (pid !== undefined) setPriority(pid, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // It has ended meanwhile.
  }
}

/** Resident memory of a process in bytes; 0 where it has ended, or where the platform does not say. */
function memoryOf({ pid }: ChildProcess): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1] ?? 0) * PAGE;
  } catch {
    return 0;
  }
}

/** What is known of a model that was ended: on the training rows it is refused, on the held-out rows it has failed. */
function endedRun(
  found: ModelRun | null,
  why: Ended,
  { milliseconds, memory }: { readonly milliseconds: number; readonly memory: number },
): ModelRun {
  const words: Record<Ended, string> = {
    time: `it was ended after ${milliseconds / 1000} seconds`,
    memory: `it was ended because it took more than ${memory / MEBIBYTE} MiB of memory`,
    broke: 'it broke off: it takes more memory, or is nested more deeply, than is allowed',
  };
  if (found)
    return { ...found, heldOut: { predictions: null, without: new Uint8Array(), problem: words[why] } };
  return {
    checks: [
      check('limits', 'fails', `The model cannot be run here: ${words[why]}.`, {
        expected: `at most ${milliseconds / 1000} seconds and ${memory / MEBIBYTE} MiB`,
      }),
    ],
    report: null,
    training: null,
    otherwise: [],
    heldOut: null,
  };
}
