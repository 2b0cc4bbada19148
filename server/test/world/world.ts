import 'reflect-metadata';
import type { INestApplicationContext } from '@nestjs/common';
import pg from 'pg';
import { readConfig } from '../../src/platform/config/config.js';
import { migrate } from '../../src/assembly/migrate.js';
import { Operation } from '../../src/platform/operation/operation.server.js';
import { makeWeb, startWorker } from '../../src/assembly/start.js';

/** A running server on the tests' database, and people who call it over HTTP. */
export interface World {
  readonly address: string;
  /** Ports on which each process is watched, where asked for. */
  readonly watch: { readonly web: number | null; readonly worker: number | null };
  readonly stop: () => Promise<void>;
}

export async function startWorld({ worker = true, watched = false } = {}): Promise<World> {
  if (watched) process.env.SIEVE_OPERATION_PORT = '0';
  await migrate(readConfig());
  // What the administrator of a server may set; `accounts.test.ts` has what holds otherwise.
  await asOwner(`UPDATE identity.setting SET value = 'anyone' WHERE name = 'course-makers'`);
  const web = await makeWeb();
  await web.listen(0, '127.0.0.1');
  const worked: INestApplicationContext | null = worker ? await startWorker() : null;
  const watch = {
    web: await web.get(Operation).listen('web'),
    worker: (await worked?.get(Operation).listen('worker')) ?? null,
  };
  delete process.env.SIEVE_OPERATION_PORT;
  return {
    address: await web.getUrl(),
    watch,
    stop: async () => {
      await worked?.close();
      await web.close();
    },
  };
}

/** Runs one statement as the owner of the database, for what cannot be brought about from outside. */
export async function asOwner<T extends object>(statement: string, values: unknown[] = []): Promise<T[]> {
  const client = new pg.Client({ connectionString: readConfig().ownerUrl });
  await client.connect();
  try {
    return (await client.query<T>(statement, values)).rows;
  } finally {
    await client.end();
  }
}

export async function until<T>(ask: () => Promise<T>, done: (answer: T) => boolean): Promise<T> {
  for (let i = 0; i < 1500; i++) {
    const answer = await ask();
    if (done(answer)) return answer;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('waited two and a half minutes in vain');
}
