import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readConfig } from '../src/platform/config/config.js';
import { watchedUrl } from '../src/platform/config/line.js';
import { Databases } from '../src/platform/database/databases.js';
import { startWorld, type World } from './world/world.js';

// The roles of the database are made by the program as it starts.
let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

/** Seconds, and milliseconds for what is confirmed: sooner than a check expires. */
const SETTINGS = [
  ['tcp_keepalives_idle', '10'],
  ['tcp_keepalives_interval', '5'],
  ['tcp_keepalives_count', '3'],
  ['tcp_user_timeout', '25000'],
] as const;

describe('a connection to the database', () => {
  it.each(['student', 'worker'] as const)(
    'of the role %s is given up by the database where the other side is gone without a word',
    async (role) => {
      const databases = new Databases(readConfig(), []);
      const db = await databases.of(role);
      for (const [name, value] of SETTINGS) {
        const [row] = await db.query<Record<string, string>[]>(`SHOW ${name}`);
        expect(row?.[name]).toBe(value);
      }
      await databases.onApplicationShutdown();
    },
  );

  it('keeps the options that the address of the owner has', () => {
    const url = new URL(
      watchedUrl('postgres://owner@db.example/sieve?options=-c%20work_mem%3D8MB&sslmode=require'),
    );
    expect(url.searchParams.get('options')).toMatch(/^-c work_mem=8MB -c tcp_keepalives_idle=10 .*=25000$/);
    expect(url.searchParams.get('sslmode')).toBe('require');
    expect(url.pathname).toBe('/sieve');
  });
});
