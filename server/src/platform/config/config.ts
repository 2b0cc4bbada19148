import { createHmac } from 'node:crypto';

/** Rights on the database: each kind of caller works on a connection of its own. */
export const DATABASE_ROLES = ['identity', 'student', 'staff', 'worker'] as const;
export type DatabaseRole = (typeof DATABASE_ROLES)[number];

export interface Config {
  readonly role: 'all' | 'web' | 'worker';
  readonly host: string;
  readonly port: number;
  /** Connection of the owner, who migrates and creates the other roles. */
  readonly ownerUrl: string;
  readonly secret: string;
  /** Threads for computation in each process. */
  readonly threads: number;
  /** Whether cookies are sent over TLS only. */
  readonly secureCookies: boolean;
}

export class ConfigError extends Error {}

/** Reads the configuration from environment variables; each is documented in docs/administrator.md. */
export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const role = env.SIEVE_ROLE ?? 'all';
  if (role !== 'all' && role !== 'web' && role !== 'worker') {
    throw new ConfigError(`SIEVE_ROLE is “${role}”; it is one of all, web and worker.`);
  }
  const whole = (name: string, fallback: number) => {
    const value = Number(env[name] ?? fallback);
    if (!Number.isInteger(value) || value < 0 || value > 65_535)
      throw new ConfigError(`${name} is not a whole number.`);
    return value;
  };
  const required = (name: string) => {
    const value = env[name];
    if (!value) throw new ConfigError(`${name} is not set. docs/administrator.md says what it is.`);
    return value;
  };
  const secret = required('SIEVE_SECRET');
  if (secret.length < 32) throw new ConfigError('SIEVE_SECRET is shorter than 32 characters.');
  return {
    role,
    host: env.SIEVE_HOST ?? '127.0.0.1',
    port: whole('SIEVE_PORT', 4180),
    ownerUrl: required('SIEVE_DATABASE_URL'),
    secret,
    threads: whole('SIEVE_THREADS', 2),
    secureCookies: env.SIEVE_SECURE_COOKIES === 'true',
  };
}

export const databaseUser = (role: DatabaseRole): string => `sieve_${role}`;

/** Passwords of the database roles follow from the secret, so that there is one secret to keep. */
export function databasePassword(config: Pick<Config, 'secret'>, role: DatabaseRole): string {
  return createHmac('sha256', config.secret).update(`database role ${role}`).digest('hex');
}

/** The connection of a database role: the owner's address with another user. */
export function databaseUrl(config: Pick<Config, 'secret' | 'ownerUrl'>, role: DatabaseRole): string {
  const url = new URL(config.ownerUrl);
  url.username = databaseUser(role);
  url.password = databasePassword(config, role);
  return url.href;
}
