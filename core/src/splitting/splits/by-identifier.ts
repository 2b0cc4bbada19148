import { SieveError } from '../../foundation/errors.js';
import { fnv1a } from '../../foundation/random/hash.js';
import { cellText, columnNamed, type Column } from '../../data/table/table.js';
import { PART_NAMES } from '../parts/part-names.js';
import { sharesOf } from '../parts/parts.js';
import { everyRowIsAssigned, identifiersStayWhole } from './invariants.js';
import { PERCENT, SHARES, shares } from './sizes.js';
import { splitter, type SplitMethod } from './splitter.js';

/**
 * Hash of a text to a number in [0, 1) with 53 bits, the same on every machine and in every version: two runs of
 * FNV-1a from different starts, each mixed by
 * MurmurHash3's last step (public domain), which the high bits of FNV need.
 */
function hashToUnit(text: string): number {
  const high = mixed(fnv1a(text));
  const low = mixed(fnv1a(text, 0x01000193 ^ high));
  return ((high >>> 5) * 0x4000000 + (low >>> 6)) / 0x20000000000000;
}

function mixed(hash: number): number {
  let h = hash ^ (hash >>> 16);
  h = Math.imul(h, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/**
 * key@1: a row's part follows from its identifier and the salt alone, so that rows added later move nobody. Sizes
 * come near the shares and are not exact.
 *
 * @throws SieveError `identifier-missing` with the row
 */
function splitByKey(
  rows: Int32Array,
  identifier: Column,
  salt: string,
  shares: readonly number[],
  parts: Int8Array,
): void {
  const total = shares.reduce((a, b) => a + b, 0);
  let sum = 0;
  const bounds = shares.map((share) => (sum += share / total));
  const last = shares.findLastIndex((share) => share > 0);
  for (const row of rows) {
    const id = cellText(identifier, row);
    if (id === null)
      throw new SieveError(
        'identifier-missing',
        `Row ${row + 1} has no ${identifier.name}, so no part follows from it.`,
        { field: identifier.name },
      );
    const unit = hashToUnit(`${salt}\u0000${id}`);
    const part = bounds.findIndex((bound) => unit < bound);
    parts[row] = part < 0 ? last : part;
  }
}

const key: SplitMethod = {
  name: 'key',
  id: 'key@1',
  title: 'by the identifier',
  isRandom: true,
  needs: ['identifier'],
  chosenBy: ['salt'],
  invariants: [everyRowIsAssigned, identifiersStayWhole],
  assign: ({ table, plan, rows, parts }) => {
    const identifier = columnNamed(table, plan.identifier ?? '');
    splitByKey(rows, identifier, plan.salt ?? '', sharesOf(plan.parts, 'by the identifier'), parts);
  },
};

export const byIdentifier = splitter({
  key: 'key',
  title: 'by the identifier',
  about:
    'A row’s part follows from its identifier and a text alone, so that rows that come later move nobody. Sizes come near the shares and are not exact.',
  isRandom: true,
  holdsOut: 'plan',
  parameters: {
    ...SHARES,
    identifier: { type: 'column', label: 'the identifier' },
    salt: { type: 'text', label: 'the text to hash with', start: '', none: 'nothing' },
  },
  sentence: () => `${PERCENT}, by a hash of {identifier} with {salt}.`,
  methods: [key],
  ask: (table, values) => ({
    table,
    parts: PART_NAMES,
    plan: {
      method: 'key',
      parts: shares(values),
      seed: 0,
      identifier: values.identifier,
      salt: values.salt,
    },
  }),
});
