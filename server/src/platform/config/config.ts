import { createHmac } from 'node:crypto';
import { watchedUrl } from './line.js';

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
  /** Whether the program is reached over TLS: cookies are then sent over it alone, and browsers keep to it. */
  readonly secureCookies: boolean;
  /** Reverse proxies before the program, whose word on a caller's address is taken. */
  readonly trustedProxies: number;
  /** Port on loopback for whatever watches the program; null for none. */
  readonly operationPort: number | null;
  /** Set by a process of the role “all” for the worker that it starts. */
  readonly besideWeb: boolean;
}

export class ConfigError extends Error {}

/** Every variable, with what it is when it is not set; null where it must be set. docs/administrator.md says more. */
const VARIABLES = {
  SIEVE_DATABASE_URL: null,
  SIEVE_SECRET: null,
  SIEVE_ROLE: 'all',
  SIEVE_HOST: '127.0.0.1',
  SIEVE_PORT: '4180',
  SIEVE_THREADS: '2',
  SIEVE_SECURE_COOKIES: 'true',
  SIEVE_TRUSTED_PROXIES: '0',
  SIEVE_OPERATION_PORT: 'none',
  SIEVE_BESIDE_WEB: 'false',
  SIEVE_LOG_LEVEL: 'info',
} as const;
type Variable = keyof typeof VARIABLES;

const ROLES = ['all', 'web', 'worker'] as const;
const LEVELS = ['trace', 'debug', 'info', 'warn', 'error', 'fatal', 'silent'] as const;
/** Set by the commands and the tests, and no configuration. */
const OTHERS = /^SIEVE_(PG_PORT|TEST_.*|ADDRESS)$/;

/**
 * Reads the configuration from environment variables.
 *
 * @throws ConfigError with everything that is wrong, each on a line
 */
export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const wrong: string[] = [];
  const text = (name: Variable): string => {
    const value = env[name] ?? VARIABLES[name];
    if (value === null || value === '')
      wrong.push(`${name} is not set. docs/administrator.md says what it is.`);
    return value ?? '';
  };
  const whole = (name: Variable, low: number, high: number): number => {
    const value = Number(text(name));
    if (!Number.isInteger(value) || value < low || value > high)
      wrong.push(`${name} is “${text(name)}”; it is a whole number from ${low} to ${high}.`);
    return value;
  };
  const oneOf = <T extends string>(name: Variable, [first, ...others]: readonly [T, ...T[]]): T => {
    const value = [first, ...others].find((choice) => choice === text(name));
    if (value === undefined)
      wrong.push(`${name} is “${text(name)}”; it is one of ${[first, ...others].join(', ')}.`);
    return value ?? first;
  };
  for (const name of Object.keys(env)) {
    if (name.startsWith('SIEVE_') && !(name in VARIABLES) && !OTHERS.test(name))
      wrong.push(`${name} is no setting of this program.`);
  }
  const ownerUrl = text('SIEVE_DATABASE_URL');
  if (ownerUrl !== '' && !/^postgres(ql)?:/.test(URL.canParse(ownerUrl) ? new URL(ownerUrl).protocol : ''))
    wrong.push(
      'SIEVE_DATABASE_URL is no address of a PostgreSQL database, such as postgres://owner:…@127.0.0.1/sieve.',
    );
  const secret = text('SIEVE_SECRET');
  if (secret !== '' && secret.length < 32) wrong.push('SIEVE_SECRET is shorter than 32 characters.');
  const config: Config = {
    role: oneOf('SIEVE_ROLE', ROLES),
    host: text('SIEVE_HOST'),
    port: whole('SIEVE_PORT', 0, 65_535),
    ownerUrl,
    secret,
    threads: whole('SIEVE_THREADS', 1, 64),
    secureCookies: oneOf('SIEVE_SECURE_COOKIES', ['false', 'true']) === 'true',
    trustedProxies: whole('SIEVE_TRUSTED_PROXIES', 0, 10),
    operationPort: text('SIEVE_OPERATION_PORT') === 'none' ? null : whole('SIEVE_OPERATION_PORT', 0, 65_534),
    besideWeb: oneOf('SIEVE_BESIDE_WEB', ['false', 'true']) === 'true',
  };
  oneOf('SIEVE_LOG_LEVEL', LEVELS);
  if (wrong.length > 0) throw new ConfigError([...new Set(wrong)].join('\n'));
  return config;
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
  return watchedUrl(url.href);
}
