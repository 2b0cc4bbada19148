import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { randomFrom, seededRandom, type Random } from './random.js';

/** What unpredictable choices of an exercise are derived from. It is kept in the vault and shown to nobody. */
export interface Secret {
  /**
   * `hmac-sha256@1`: 32 random bytes. `seed@1`: the two 32-bit seeds (of variants, then of the pack, little-endian) of
   * an exercise that was released before there were secrets, which keeps what was generated from them.
   */
  readonly algorithm: 'hmac-sha256@1' | 'seed@1';
  readonly bytes: Uint8Array;
}

/** What a choice is for. Two purposes that differ in anything get unrelated random numbers. */
export interface Purpose {
  readonly what: string;
  /** Identifier of the question, where there is one. */
  readonly question?: string;
  /** Identifier of the student, where the choice is theirs alone. */
  readonly person?: string;
  readonly number?: number;
}

export const SECRET_BYTES = 32;

/** For samples of a variant that no student gets. */
export const PUBLIC_SECRET: Secret = { algorithm: 'hmac-sha256@1', bytes: new Uint8Array(SECRET_BYTES) };

const WORDS = 8;

/**
 * Random numbers that follow from a secret and a purpose, and that nobody can predict or search without the secret: the
 * purpose gives a key by HMAC-SHA-256 (RFC 2104), and the key gives blocks of 256 bits by HMAC over a counter, as in the
 * counter mode of NIST SP 800-108.
 */
export function keyedRandom(secret: Secret, purpose: Purpose): Random {
  if (secret.algorithm === 'seed@1') return fromSeeds(secret.bytes, purpose);
  const { what, question = null, person = null, number = null } = purpose;
  // JSON distinguishes every tuple from every other.
  const label = new TextEncoder().encode(JSON.stringify([what, question, person, number]));
  const keyed = hmac.create(sha256, hmac(sha256, secret.bytes, label));
  const counter = new DataView(new ArrayBuffer(8));
  let block = new DataView(new ArrayBuffer(0));
  let next = WORDS;
  let blocks = 0;
  return randomFrom(() => {
    if (next === WORDS) {
      counter.setUint32(0, Math.floor(blocks / 2 ** 32), true);
      counter.setUint32(4, blocks >>> 0, true);
      blocks++;
      const digest = keyed.clone().update(new Uint8Array(counter.buffer)).digest();
      block = new DataView(digest.buffer, digest.byteOffset, digest.byteLength);
      next = 0;
    }
    return block.getUint32(4 * next++, true);
  });
}

/** As exercises of the first versions derived them: the streams had these names. */
function fromSeeds(bytes: Uint8Array, { what, number, person }: Purpose): Random {
  const seeds = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const stream = [what, number, person].filter((part) => part !== undefined).join(' ');
  return seededRandom(seeds.getInt32(person === undefined ? 4 : 0, true), stream);
}
