import { at, counted, indices } from '../../../foundation/numbers.js';
import { pearson } from '../../../data/profile/association.js';
import { sortedPlaces } from '../../files/identifier-order.js';
import type { PartShare } from './assignment-checks.js';
import { sizesOf } from './assignment-figures.js';
import type { RowsKey } from './key.js';
import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';

/** Rows in parts or folds that do not keep to what was asked. */
export interface AssignedFile {
  /** The place of each row's part, or of its fold. */
  readonly assigned: Int32Array;
  readonly parts: readonly PartShare[];
  readonly key: RowsKey;
  readonly identifiers: readonly string[];
  /** Ids of the checks that fail. */
  readonly fails: readonly string[];
}

const FEWEST_ROWS = 20;
/** Share of the groups that a random assignment would cut, of which so many are cut where groups were not looked at. */
const CUT = 0.5;
/** A correlation with the time, times √n, that a shuffled assignment hardly ever has. */
const RANDOM = 3;

/** Whether each part is one piece of the rows in some order. */
function isInPieces(assigned: Int32Array, parts: number): boolean {
  let changes = 0;
  for (let row = 1; row < assigned.length; row++) if (assigned[row] !== assigned[row - 1]) changes++;
  return assigned.length >= FEWEST_ROWS && changes === parts - 1;
}

/** In which order of the rows each part is one piece; null for none. The order of the file says nothing, that of identifiers or classes may. */
function piecesIn({ assigned, parts, key, identifiers }: AssignedFile): string | null {
  const along = (order: Int32Array) => Int32Array.from(order, (row) => at(assigned, row));
  if (isInPieces(assigned, parts.length)) return 'the file';
  const sorted = sortedPlaces(identifiers);
  if (sorted && isInPieces(along(sorted), parts.length)) return 'the identifiers';
  if (!key.strata) return null;
  const { codes } = key.strata;
  // Of rows of one class any order will do, so that they are taken in the order of their parts.
  const upward = (way: 1 | -1) =>
    isInPieces(
      along(
        indices(codes.length).sort(
          (a, b) => at(codes, a) - at(codes, b) || way * (at(assigned, a) - at(assigned, b)),
        ),
      ),
      parts.length,
    );
  return upward(1) || upward(-1) ? key.strata.column : null;
}

/** Groups that lie in several parts, and how many would if rows were assigned one by one. */
function cutGroups(
  assigned: Int32Array,
  { codes }: NonNullable<RowsKey['groups']>,
  parts: readonly PartShare[],
) {
  const rowsOf = new Map<number, number[]>();
  codes.forEach((code, row) => {
    const own = rowsOf.get(code);
    if (own) own.push(row);
    else if (code >= 0) rowsOf.set(code, [row]);
  });
  let [cut, expected] = [0, 0];
  for (const rows of rowsOf.values()) {
    if (new Set(rows.map((row) => at(assigned, row))).size > 1) cut++;
    expected += 1 - parts.reduce((sum, { share }) => sum + share ** rows.length, 0);
  }
  return { cut, expected };
}

const groupsCut: FileSlip<AssignedFile> = fileSlip({
  id: 'groups-cut',
  title: 'groups cut',
  from: 'form',
  says: 'Rows of one group are in several parts, as where rows are assigned one by one.',
  remedy:
    'Assign whole groups: a model that has seen a group knows something of its other rows. Libraries have a method for groups beside the plain one.',
  example: 'Ten weighings of one hive: seven for training and three for testing make the test too easy.',
  test({ assigned, parts, fails, key: { groups } }) {
    if (!groups || !fails.includes('groups')) return null;
    const { cut, expected } = cutGroups(assigned, groups, parts);
    return cut >= CUT * expected ? `${counted(cut, 'group')} in several parts` : null;
  },
});

const inPieces = (file: AssignedFile): string | null => {
  const order = piecesIn(file);
  return order === null ? null : `each is one piece in the order of ${order}`;
};

const notStratified: FileSlip<AssignedFile> = fileSlip({
  id: 'not-stratified',
  title: 'not stratified',
  from: 'form',
  says: 'The shares of the classes differ between the parts, as where they are left to chance.',
  remedy:
    'Name the column when you split, so that each class is split by itself. With few rows of a class chance alone may leave a part without it.',
  example: '12 lost colonies of 60 at random: a test part of 15 may have 1 or 6 of them, and should have 3.',
  test: (file) =>
    file.fails.includes('strata') && piecesIn(file) === null ? 'shares differ beyond what is allowed' : null,
});

/** Mistakes in a split that could be read. */
export const SPLIT_SLIPS: readonly FileSlip<AssignedFile>[] = [
  fileSlip({
    id: 'fractions-exchanged',
    title: 'fractions exchanged',
    from: 'form',
    says: 'The sizes of the parts are exchanged.',
    remedy:
      'Look which share is that of training and which that of testing. Most functions take the share of one of them.',
    example: 'test_size 0.8 leaves a fifth of the rows for training.',
    test({ assigned, parts, fails }) {
      if (!fails.includes('sizes')) return null;
      const n = assigned.length;
      const sizes = sizesOf(assigned, parts.length);
      const near = (size: number, share: number) => Math.abs(size - share * n) <= Math.max(1, 0.01 * n);
      const isExchanged = parts.some(({ share: one }, a) =>
        parts.some(
          ({ share: other }, b) =>
            a < b &&
            one !== other &&
            parts.every(({ share }, c) => near(at(sizes, c), c === a ? other : c === b ? one : share)),
        ),
      );
      return isExchanged ? `sizes ${sizes.join(', ')}` : null;
    },
  }),
  notStratified,
  groupsCut,
  fileSlip({
    id: 'first-rows-taken',
    title: 'first rows taken',
    from: 'form',
    says: 'The parts are pieces of sorted rows, one after the other.',
    remedy:
      'A file is often sorted, by class, place or time. Draw the rows at random, or by what the question asks.',
    example: 'In a file that is sorted by apiary the last fifth is two apiaries, and no others.',
    test: (file) => (file.fails.length > 0 && !file.key.time ? inPieces(file) : null),
  }),
  fileSlip({
    id: 'shuffled-in-time',
    title: 'shuffled in time',
    from: 'form',
    says: 'Rows of all times are in every part, where the order of time is asked.',
    remedy:
      'Sort by time and cut. A model that has seen the days around a day knows more than it will of days to come.',
    example: 'Training until August and testing in September, and not every fifth day for testing.',
    test({ assigned, key: { time }, fails }) {
      if (!time || !fails.includes('time')) return null;
      const rows = Array.from(assigned, (_, row) => row).filter((row) => !Number.isNaN(at(time.values, row)));
      const related = pearson(
        Float64Array.from(rows, (row) => at(assigned, row)),
        Float64Array.from(rows, (row) => at(time.values, row)),
      );
      return rows.length >= FEWEST_ROWS && Math.abs(related ?? 0) * Math.sqrt(rows.length) < RANDOM
        ? 'parts do not go with the time'
        : null;
    },
  }),
];

/** Mistakes in folds that could be read. */
export const FOLDS_SLIPS: readonly FileSlip<AssignedFile>[] = [
  fileSlip({
    id: 'sizes-unequal',
    title: 'folds of unequal size',
    from: 'form',
    says: 'The folds are not of equal size, as where each row draws its fold.',
    remedy:
      'Give out the folds in turn to shuffled rows. A fold of few rows has an unsure figure that counts as much as the others.',
    example: '100 rows that each draw one of 5 folds make folds of 14 to 27 rows.',
    test: ({ fails, assigned, parts }) =>
      fails.includes('sizes') ? `sizes ${sizesOf(assigned, parts.length).join(', ')}` : null,
  }),
  notStratified,
  groupsCut,
  fileSlip({
    id: 'in-file-order',
    title: 'folds in the order of the file',
    from: 'form',
    says: 'Each fold is one piece of sorted rows.',
    remedy:
      'A file is often sorted. Shuffle the rows before you cut, or take the folds by what the question asks.',
    example: 'In a file that is sorted by class a fold may hold a single class.',
    test: (file) => (file.fails.length > 0 ? inPieces(file) : null),
  }),
];
