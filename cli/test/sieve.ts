import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const PROGRAM = fileURLToPath(new URL('../bin/sieve.js', import.meta.url));
/** Milliseconds that a command may take on a slow machine. */
const PATIENCE = 60_000;

export interface Ran {
  readonly code: number | null;
  readonly out: string;
  readonly said: string;
}

/** A folder of its own, in which the built program is run. */
export class Folder {
  readonly path = mkdtempSync(join(tmpdir(), 'sieve-cli-'));

  write(name: string, content: string | Uint8Array): string {
    writeFileSync(join(this.path, name), content);
    return name;
  }

  read(name: string): string {
    return readFileSync(join(this.path, name), 'utf8');
  }

  get names(): string[] {
    return readdirSync(this.path).sort();
  }

  run(args: readonly string[], input?: string): Ran {
    const { status, stdout, stderr } = spawnSync(process.execPath, [PROGRAM, ...args], {
      cwd: this.path,
      encoding: 'utf8',
      timeout: PATIENCE,
      ...(input === undefined ? {} : { input }),
    });
    return { code: status, out: stdout, said: stderr };
  }

  /** What `--json` prints; the command is to end well. */
  json(args: readonly string[]): Record<string, unknown> {
    const { code, out, said } = this.run([...args, '--json']);
    if (code !== 0) throw new Error(`exit ${code}: ${said}`);
    return JSON.parse(out) as Record<string, unknown>;
  }

  /** Starts a command and sends it a signal as soon as it has said something. */
  interrupt(args: readonly string[], signal: NodeJS.Signals): Promise<Ran> {
    const child = spawn(process.execPath, [PROGRAM, ...args], { cwd: this.path });
    let out = '';
    let said = '';
    child.stdout.on('data', (data: Buffer) => (out += data.toString()));
    child.stderr.on('data', (data: Buffer) => {
      if (said === '') child.kill(signal);
      said += data.toString();
    });
    return new Promise((resolve, reject) => {
      child.once('error', reject);
      child.once('close', (code) => resolve({ code, out, said }));
    });
  }
}

/** Colonies: thirty rows in six apiaries over thirty days, alternating in their outcome. */
export const COLONIES = `colony,apiary,day,mites,outcome\n${Array.from(
  { length: 30 },
  (_, i) => `c${i},a${i % 6},${i},${(i * 7) % 11},${i % 3 === 0 ? 'lost' : 'alive'}`,
).join('\n')}\n`;
