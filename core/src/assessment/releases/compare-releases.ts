import { check, MOST_EXAMPLES, type Check } from '../../foundation/check.js';
import { at, count, counted } from '../../foundation/numbers.js';
import { copies } from './copies.js';
import { featuresOf, type Roles } from '../../data/table/roles.js';
import { cellText, columnNamed, isMissing, type Table } from '../../data/table/table.js';

/** What a release gives to students: its table, what the columns are for, and the part of each row. */
export interface GivenRows {
  readonly table: Table;
  readonly roles: Roles;
  readonly parts: Int8Array;
}

/** An earlier release, with its rows among those of the exercise that is being released. */
export interface EarlierRelease extends GivenRows {
  readonly title: string;
  /** Whether it is on the same data set, so that its reserve is that of the exercise. */
  readonly sameDataSet: boolean;
  /** Whether students have seen final figures of it. */
  readonly returned: boolean;
  /** For each row of the exercise's table the row of this release's table, or −1. */
  readonly rows: Int32Array;
  /** 2 for each of its rows that decided marks. */
  readonly division: Uint8Array;
}

/**
 * Whether a pack and an earlier release together give away what one of them holds out: a held-out row that the other
 * gives with its target, as its target or among its other columns under any name. On one data set that refuses the
 * release; on another one, with the same rows, the instructor may have a reason. Final rows whose figures students have
 * seen already are named too.
 *
 * @param division of the exercise's rows: 2 for each that decides marks
 */
export function compareWithRelease(mine: GivenRows, division: Uint8Array, other: EarlierRelease): Check[] {
  const where = `the pack of “${other.title}”`;
  const pairs = Array.from(other.rows.keys()).flatMap((row) => {
    const partner = at(other.rows, row);
    return partner < 0 ? [] : [[row, partner] as const];
  });
  const theirs = pairs.map(([row, partner]) => [partner, row] as const);
  const ownGiven = givenAway(mine, other, pairs);
  const given = givenAway(other, mine, theirs);
  const bad = other.sameDataSet ? 'fails' : 'unsure';
  const checks: Check[] = [];
  if (ownGiven.length > 0)
    checks.push(
      check(
        'held-out-given',
        bad,
        `${counted(ownGiven.length, 'held-out row')} of ${count(mine.parts.filter((part) => part === 2).length)} ${ownGiven.length === 1 ? 'is' : 'are'} in ${where} with ${mine.roles.target}`,
        { measured: counted(ownGiven.length, 'row'), expected: 'none', examples: named(mine, ownGiven) },
      ),
    );
  if (given.length > 0)
    checks.push(
      check(
        'reserve-given',
        bad,
        `This pack would give ${other.roles.target} of ${counted(given.length, 'row')} that “${other.title}” holds out`,
        { measured: counted(given.length, 'row'), expected: 'none', examples: named(other, given) },
      ),
    );
  const seen = other.returned
    ? pairs.filter(([row, partner]) => division[row] === 2 && other.division[partner] === 2)
    : [];
  if (seen.length > 0 && other.roles.target === mine.roles.target)
    checks.push(
      check(
        'final-scored',
        'unsure',
        `${counted(seen.length, 'final row')} decided the marks of “${other.title}” too, and its students have seen their final figures`,
        { measured: counted(seen.length, 'row'), expected: 'final rows whose figures nobody has seen' },
      ),
    );
  return checks;
}

/** The rows that `holder` holds out and of which `giver` gives the target, by the rows of the holder. */
function givenAway(
  holder: GivenRows,
  giver: GivenRows,
  pairs: readonly (readonly [row: number, partner: number])[],
): number[] {
  const held = pairs.filter(([row]) => at(holder.parts, row) === 2);
  const target = columnNamed(holder.table, holder.roles.target);
  const features = featuresOf(giver.table, giver.roles).map(({ name }) => name);
  const { target: theirTarget, weight, identifier } = giver.roles;
  const others = [theirTarget, weight, identifier].filter((name) => name !== null);
  // With training and validation rows students get all of these, with held-out rows the features and the identifier.
  const withTarget = held.filter(([, partner]) => [0, 1].includes(at(giver.parts, partner)));
  const without = held.filter(([, partner]) => at(giver.parts, partner) === 2);
  const givesTarget = (names: readonly string[], rows: typeof held) =>
    names.some(
      (name) => name === holder.roles.target || copies(target, columnNamed(giver.table, name), rows),
    );
  const shown = [
    ...(givesTarget([...features, ...others], withTarget) ? withTarget : []),
    ...(givesTarget(identifier === null ? features : [...features, identifier], without) ? without : []),
  ];
  return shown.filter(([row]) => !isMissing(target, row)).map(([row]) => row);
}

const named = ({ table, roles }: GivenRows, rows: readonly number[]) =>
  rows.slice(0, MOST_EXAMPLES).map((row) => ({
    line: null,
    column: null,
    text:
      roles.identifier === null
        ? `row ${row + 1} of the table`
        : (cellText(columnNamed(table, roles.identifier), row) ?? ''),
  }));
