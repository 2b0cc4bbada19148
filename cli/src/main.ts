import { SieveError, type Work } from '@modest-sieve/core/foundation';
import { formatOf, readTable } from '@modest-sieve/core/data';
import { Command, CommanderError, type OptionValues } from 'commander';
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { setImmediate } from 'node:timers/promises';
import type { Outcome, Run, Start, Tools } from './command.js';
import { addCheckSplit } from './commands/check-split.js';
import { addCompare } from './commands/compare.js';
import { addDiagnose } from './commands/diagnose.js';
import { addDraw } from './commands/draw.js';
import { addFit } from './commands/fit.js';
import { addFolds } from './commands/folds.js';
import { addMark } from './commands/mark.js';
import { addPredict } from './commands/predict.js';
import { addProfile } from './commands/profile.js';
import { addScore } from './commands/score.js';
import { addSplit } from './commands/split.js';
import { readInput, writeOutputs } from './files.js';
import { progressOn } from './progress.js';
import { Threads } from './threads.js';

/** Exit codes: done, a check does not hold, bad input or usage; and the shell's own for an interruption. */
const DONE = 0;
const DOES_NOT_HOLD = 1;
const BAD_INPUT = 2;
const INTERRUPTED = 130;

/** Files smaller than this are read sooner than threads are started. */
const WORTH_THREADS = 32 * 2 ** 20;
const MOST_THREADS = 4;
const BYTES_OF_A_CELL = 8;

const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8')) as {
  version: string;
};

const stopped = new AbortController();
process.once('SIGINT', () => stopped.abort(new SieveError('stopped', 'Stopped; nothing was written.')));
process.once('SIGTERM', () => stopped.abort(new SieveError('stopped', 'Stopped; nothing was written.')));
// The reader may have read enough: `sieve … | head` is no error.
process.stdout.on('error', () => process.exit(DONE));

const threads = new Threads(Math.min(MOST_THREADS, availableParallelism()));
const progress = progressOn(process.stderr);

const say = (message: string): void => {
  progress.end();
  process.stderr.write(`${message}\n`);
};

function workFor(bytes: number): Work {
  const work: Work = { signal: stopped.signal, progress: progress.report };
  if (bytes < WORTH_THREADS) return work;
  threads.warm();
  return { ...work, crew: threads };
}

const tools: Tools = {
  bytes: readInput,
  async table(path, options = {}) {
    const bytes = await readInput(path);
    const file = path === '-' ? 'standard input' : path;
    // Files of binary formats are read in a thread, however small: it can be ended, this one cannot.
    const size = formatOf(file)?.isBinary ? WORTH_THREADS : bytes.length;
    const read = await readTable(bytes, { ...options, file }, workFor(size));
    read.remarks.forEach(say);
    return read;
  },
  say,
  workOn: (table) => workFor(table.rowCount * table.columns.length * BYTES_OF_A_CELL),
  helpers: threads,
};

/** Runs a command whose arguments commander has read: the arguments, the options, the command itself. */
const start: Start =
  <Options>(run: Run<Options>) =>
  async (...given: unknown[]) => {
    const command = given.at(-1);
    if (!(command instanceof Command)) throw new TypeError('commander gives the command last');
    const outcome = await Promise.race([
      run(tools, command.args, command.opts<Options & OptionValues>()),
      interruption(),
    ]);
    // A signal that came while this thread was computing is heard only now.
    await setImmediate();
    stopped.signal.throwIfAborted();
    await writeOutputs(outcome.files ?? []);
    progress.end();
    print(outcome, command.opts<{ json?: boolean }>().json === true);
    process.exitCode = outcome.holds === false ? DOES_NOT_HOLD : DONE;
  };

/** Never settles unless the person interrupts. */
const interruption = (): Promise<never> =>
  new Promise((_, reject) => {
    stopped.signal.addEventListener('abort', () => reject(stopped.signal.reason as Error));
  });

function print(outcome: Outcome, asJson: boolean): void {
  process.stdout.write(asJson ? `${JSON.stringify(outcome.json)}\n` : `${outcome.text.trimEnd()}\n`);
}

const program = new Command('sieve')
  .description(
    'Tables, splits, folds, scores and models for machine-learning exercises, from the command line.',
  )
  .version(version)
  .showHelpAfterError('(sieve COMMAND --help shows what a command takes)')
  .exitOverride()
  .configureHelp({ sortSubcommands: false });
for (const add of [
  addProfile,
  addSplit,
  addFolds,
  addCheckSplit,
  addScore,
  addCompare,
  addFit,
  addPredict,
  addDiagnose,
  addMark,
  addDraw,
])
  add(program, start);
for (const command of program.commands)
  command
    .option('--json', 'print one JSON object on standard output')
    .exitOverride()
    .showHelpAfterError(false);

try {
  await program.parseAsync();
} catch (error) {
  progress.end();
  process.exitCode = exitCodeOf(error);
  if (error instanceof SieveError) say(error.message);
  else if (!(error instanceof CommanderError)) throw error;
} finally {
  await threads.stop();
}

function exitCodeOf(error: unknown): number {
  if (error instanceof SieveError) return error.code === 'stopped' ? INTERRUPTED : BAD_INPUT;
  // Asking for help or for the version is no mistake.
  if (error instanceof CommanderError && error.exitCode === 0) return DONE;
  return BAD_INPUT;
}
