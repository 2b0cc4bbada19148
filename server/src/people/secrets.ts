import { createHash, randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';

/** Of sessions, tokens and links only the hash is kept. 256 random bits need no slow hash. */
export const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest();

export const newSecret = (): string => randomBytes(32).toString('base64url');

/** argon2id with 19 MiB, two passes and one lane (OWASP, Password Storage Cheat Sheet). */
export const hashPassword = (password: string): Promise<string> =>
  hash(password, { memoryCost: 19 * 1024, timeCost: 2, parallelism: 1 });
