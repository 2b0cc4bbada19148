import { unzipSync } from 'fflate';
import { SieveError } from '../../foundation/errors.js';
import { saidBy } from './values.js';

/** Bytes that the parts of an archive may unpack to in all. */
const LARGEST_UNPACKED = 2 ** 29;

/**
 * What a zip archive holds, by path. What its parts would unpack to is looked at before anything is unpacked.
 *
 * @param wanted which parts are unpacked; all of them where left out
 * @param unreadable the error for an archive that is none
 * @param largest bytes that its parts may unpack to in all
 * @param advice what else to do with one that is too large
 * @throws SieveError `too-large`, and whatever `unreadable` makes
 */
export function unpacked(
  bytes: Uint8Array,
  file: string,
  unreadable: (said: string) => SieveError,
  wanted: (path: string) => boolean = () => true,
  largest = LARGEST_UNPACKED,
  advice = '',
): Record<string, Uint8Array> {
  let size = 0;
  try {
    unzipSync(bytes, {
      filter: ({ originalSize }) => {
        size += originalSize;
        return false;
      },
    });
    if (size <= largest) return unzipSync(bytes, { filter: ({ name }) => wanted(name) });
  } catch (error) {
    throw unreadable(saidBy(error));
  }
  throw new SieveError(
    'too-large',
    `${file} unpacks from ${megabytes(bytes.length)} to ${megabytes(size)} MB, which is too much.${advice === '' ? '' : ` ${advice}`}`,
    { file },
  );
}

const megabytes = (bytes: number) => (bytes / 2 ** 20).toFixed(1);
