import { SECRET_BYTES, type Secret } from '../src/foundation/random/secret.js';

/** A secret for tests: another number, another secret. */
export function secretOf(number: number): Secret {
  const bytes = new Uint8Array(SECRET_BYTES);
  new DataView(bytes.buffer).setUint32(0, number);
  return { algorithm: 'hmac-sha256@1', bytes };
}

/** The seeds of an exercise that was released before there were secrets. */
export function seedsOf(variants: number, pack = 0): Secret {
  const bytes = new Uint8Array(8);
  const view = new DataView(bytes.buffer);
  view.setInt32(0, variants, true);
  view.setInt32(4, pack, true);
  return { algorithm: 'seed@1', bytes };
}
