// Writes a Brotli and a gzip form beside each file of a folder that gets smaller by it: `node compress.mjs FOLDER`. The
// server sends these as they are.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const SMALLER = /\.(js|css|html|svg|wasm|json)$/;

/** Bytes from which the best quality of Brotli takes too long for what it saves. */
const LARGE = 4_000_000;

/** Shorter files are not worth a second name. */
const SHORT = 512;

/** @type {Record<string, (bytes: Buffer) => Promise<Buffer>>} */
const FORMS = {
  br: (bytes) =>
    promisify(brotliCompress)(bytes, {
      params: {
        [constants.BROTLI_PARAM_QUALITY]: bytes.length > LARGE ? 9 : constants.BROTLI_MAX_QUALITY,
        [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length,
      },
    }),
  gz: (bytes) => promisify(gzip)(bytes, { level: constants.Z_BEST_COMPRESSION }),
};

const [folder] = process.argv.slice(2);
if (folder === undefined) throw new Error('which folder?');
await Promise.all(
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => SMALLER.test(name))
    .flatMap((name) =>
      Object.entries(FORMS).map(([ending, form]) => ({ path: join(folder, name), ending, form })),
    )
    .map(async ({ path, ending, form }) => {
      const bytes = readFileSync(path);
      if (bytes.length < SHORT) return;
      const made = await form(bytes);
      if (made.length < bytes.length) writeFileSync(`${path}.${ending}`, made);
    }),
);
