const OFFSET_BASIS = 0x811c9dc5;
const PRIME = 0x01000193;

/**
 * FNV-1a over UTF-16 code units, low byte first; offset basis and prime as in the FNV specification
 * (draft-eastlake-fnv).
 *
 * @param start in place of the offset basis
 * @returns 32 bits, signed
 */
export function fnv1a(text: string, start = OFFSET_BASIS): number {
  let hash = start;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    hash = Math.imul(hash ^ (unit & 0xff), PRIME);
    hash = Math.imul(hash ^ (unit >>> 8), PRIME);
  }
  return hash;
}
