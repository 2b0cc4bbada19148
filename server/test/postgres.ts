import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

interface Cluster {
  readonly bin: string;
  readonly data: string;
  readonly port: number;
}

const cluster = JSON.parse(process.env.SIEVE_TEST_POSTGRES ?? '{}') as Cluster;

function control(...args: string[]): void {
  const command = [join(cluster.bin, 'pg_ctl'), '-D', cluster.data, ...args];
  const full = process.getuid?.() === 0 ? ['runuser', '-u', 'postgres', '--', ...command] : command;
  const [program = '', ...rest] = full;
  const { status, error } = spawnSync(program, rest, { cwd: '/', stdio: 'ignore' });
  if (status !== 0) throw error ?? new Error(`pg_ctl ${args.join(' ')} ended with ${String(status)}`);
}

/** Stops the tests' PostgreSQL as a pulled plug would. */
export const stopPostgres = (): void => control('stop', '-m', 'immediate', '-w');

export function startPostgres(): void {
  const options = [
    `-p ${cluster.port}`,
    '-c listen_addresses=127.0.0.1',
    '-c unix_socket_directories=',
    '-c max_connections=200',
  ];
  control('start', '-w', '-l', join(cluster.data, 'restarted.log'), '-o', options.join(' '));
}
