import { randomBytes } from 'node:crypto';
import pg from 'pg';

/** What PostgreSQL says of a database that somebody is connected to. */
const IN_USE = '55006';

/**
 * Has the programs of this file of tests work on a copy of the database that the environment names, so that they find it as
 * it was, whichever files ran before.
 */
export async function onOwnCopy(): Promise<void> {
  const address = new URL(process.env.SIEVE_DATABASE_URL ?? '');
  const from = decodeURIComponent(address.pathname.slice(1));
  const copy = `copy_${randomBytes(6).toString('hex')}`;
  address.pathname = '/postgres';
  const client = new pg.Client({ connectionString: address.href });
  await client.connect();
  try {
    for (let tried = 1; ; tried++) {
      try {
        await client.query(`CREATE DATABASE ${copy} TEMPLATE ${client.escapeIdentifier(from)}`);
        break;
      } catch (error) {
        // The connections of a program that has just ended go away by themselves.
        if (!(error instanceof pg.DatabaseError && error.code === IN_USE && tried < 100)) throw error;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
  } finally {
    await client.end();
  }
  address.pathname = `/${copy}`;
  process.env.SIEVE_DATABASE_URL = address.href;
}
