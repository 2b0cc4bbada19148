import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { rename, rm } from 'node:fs/promises';
import { DataSource } from 'typeorm';
import { ConfigError, type Config } from '../platform/config/config.js';
import { createRoles } from './migrate.js';

type Owner = Pick<Config, 'ownerUrl' | 'secret'>;

/** Runs a tool of PostgreSQL on the owner's database. The password goes by the environment, where `ps` does not show it. */
async function run(
  tool: 'pg_dump' | 'pg_restore',
  args: readonly string[],
  { ownerUrl }: Owner,
): Promise<void> {
  const { hostname, port, username, password, pathname } = new URL(ownerUrl);
  const child = spawn(tool, args, {
    env: {
      ...process.env,
      PGHOST: hostname,
      PGPORT: port || '5432',
      PGUSER: decodeURIComponent(username),
      PGPASSWORD: decodeURIComponent(password),
      PGDATABASE: decodeURIComponent(pathname.slice(1)),
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString('utf8')));
  const [code] = (await once(child, 'close')) as [number | null];
  if (code !== 0) throw new ConfigError(`${tool} ended with ${code ?? 'a signal'}:\n${said.trim()}`);
}

/** Writes everything in the database to one file, which appears complete or not at all. */
export async function backUp(owner: Owner, file: string): Promise<void> {
  const partial = `${file}.partial`;
  try {
    await run('pg_dump', ['--format=custom', '--no-owner', `--file=${partial}`], owner);
    await rename(partial, file);
  } finally {
    await rm(partial, { force: true });
  }
}

/**
 * Brings a back-up into an empty database: all of it, or nothing.
 *
 * @throws ConfigError where the database is not empty, or the file is no back-up
 */
export async function restore(owner: Owner, file: string): Promise<void> {
  const database = new DataSource({
    type: 'postgres',
    url: owner.ownerUrl,
    applicationName: 'modest-sieve restore',
  });
  await database.initialize();
  try {
    const [found]: { vault: string | null }[] = await database.query(
      `SELECT to_regnamespace('vault') AS vault`,
    );
    if (found?.vault) {
      throw new ConfigError(
        'This database holds data already. Restore into an empty one, and compare the two.',
      );
    }
    await createRoles(database, owner);
  } finally {
    await database.destroy();
  }
  // Of a new database the schema `public` is there already, and only its rights are taken over.
  const options = ['--no-owner', '--single-transaction', '--exit-on-error'];
  const name = decodeURIComponent(new URL(owner.ownerUrl).pathname.slice(1));
  await run('pg_restore', [...options, `--dbname=${name}`, file], owner);
}
