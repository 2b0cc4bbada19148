import { check, type Check } from '../../foundation/check.js';
import { at, counted } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { firstAlike } from '../../data/table/same-rows.js';
import { labelsOf } from '../../data/table/labels.js';
import { featuresOf, type Roles } from '../../data/table/roles.js';
import {
  columnNamed,
  isMissing,
  selectRows,
  type Column,
  type NumberColumn,
  type Table,
} from '../../data/table/table.js';
import { gainOf, gainOfTwins, NEARLY_NOTHING, type Gain } from './gain.js';
import { identifierColumns } from './identifier-columns.js';
import { seriesColumns } from './series-columns.js';
import { type Order, sides, thinned, stretchOf, ordersOf, groupingsOf } from './orders.js';

/** Features that later rows are looked at by, orders that are tried, and columns that rows are grouped by. */
const MOST_FEATURES = 10;

/** What is left of the error where a target is as good as given. */
const AS_GOOD_AS_GIVEN = 0.05;
const MUCH_LESS = 0.01;

/** Rows of a table that students get, and which of them a model is judged on. */
export interface LearnedAudit {
  readonly table: Table;
  readonly roles: Roles;
  /** Rows whose target students get. */
  readonly fit: Int32Array;
  /** Rows whose target they do not get. */
  readonly judge: Int32Array;
}

/**
 * What a small model learns from what nobody means as a feature: from the rows before and after a row, from its
 * identifier, and from rows with the same features. It is fitted to the rows that students get with their target and
 * judged on the held-out rows, beside one that has the features alone. What gains beyond chance is named with its gain.
 */
export function learnedAudit(request: LearnedAudit): Check[] {
  return [seriesCheck(request), identifierCheck(request), twinsCheck(request)].filter((one) => one !== null);
}

/** The same before anything is split: on a part of the rows, chosen at random. */
export function learnedAuditOf(table: Table, roles: Roles): Check[] {
  const target = columnNamed(table, roles.target);
  const labelled = Int32Array.from({ length: table.rowCount }, (_, row) => row).filter(
    (row) => !isMissing(target, row),
  );
  const order = shuffle(labelled.slice(), seededRandom(1, 'learned audit'));
  const cut = Math.floor(0.7 * order.length);
  const audit = { table, roles, fit: order.slice(0, cut).sort(), judge: order.slice(cut).sort() };
  return [seriesCheck(audit), identifierCheck(audit)].filter((one) => one !== null);
}

const percent = (share: number) => `${Number((100 * Math.max(0, share)).toPrecision(2))} %`;

/** What a gain comes to: as good as given, or a hint that the instructor should weigh. */
function verdict(id: string, what: string, target: string, gain: Gain): Check {
  const isGiven = gain.with < AS_GOOD_AS_GIVEN && gain.with < NEARLY_NOTHING * gain.without;
  return check(
    id,
    isGiven ? 'fails' : 'unsure',
    isGiven
      ? `${what} give ${target} as good as exactly (${at(gain.columns, 0)}): withhold the column at Look, or hold out rows that nothing follows`
      : `${what} predict ${target} better than the features do (${at(gain.columns, 0)})`,
    {
      measured: `a model of the features leaves ${percent(gain.without)} of the error, with them it leaves ${percent(gain.with)}`,
      expected: 'no gain beyond chance',
    },
  );
}

/** Said where nothing could be tried: there is no ground for a doubt, and none for trust. */
const tooFew = (id: string, what: string, judge: Int32Array): Check =>
  check(id, 'holds', `A model of ${what} was not tried: there are too few rows to judge it by`, {
    measured: counted(judge.length, 'held-out row'),
  });

function seriesCheck({ table, roles, fit, judge }: LearnedAudit): Check | null {
  const features = featuresOf(table, roles);
  const measured = features.filter(
    (column): column is NumberColumn => column.kind === 'number' && column.name !== roles.time,
  );
  const given = Int32Array.of(...[fit, judge].flatMap((rows) => Array.from(rows)));
  const orders = ordersOf(table, roles, features, given);
  if (orders.length === 0 || measured.length === 0) return null;
  let worst: Gain | null = null;
  let wasJudged = false;
  for (const order of orders)
    for (const groups of groupingsOf(table, roles, features)) {
      const gain = gainInSeries({ table, roles, fit, judge }, { measured, features, order, groups, given });
      wasJudged ||= gain !== 'too few';
      // The first order and group that give as much are those that are meant.
      if (typeof gain === 'object' && (worst === null || gain.with < worst.with - MUCH_LESS)) worst = gain;
    }
  if (worst) return verdict('series', 'Rows that follow or precede a row', roles.target, worst);
  return !wasJudged
    ? tooFew('series', 'the rows that follow and precede a row', judge)
    : check(
        'series',
        'holds',
        'A model of the rows that follow and precede a row gains nothing beyond chance',
        {
          measured: `${counted(orders.length, 'order')} tried: ${orders.map(({ name }) => name).join(', ')}`,
        },
      );
}

function gainInSeries(
  { table, roles, fit, judge }: LearnedAudit,
  {
    measured,
    features,
    order: { name: orderName, values },
    groups,
    given,
  }: {
    measured: readonly NumberColumn[];
    features: readonly Column[];
    order: Order;
    groups: Int32Array;
    given: Int32Array;
  },
): ReturnType<typeof gainOf> {
  const inOrder = given
    .slice()
    .sort((a, b) => at(groups, a) - at(groups, b) || at(values, a) - at(values, b));
  const stretch = stretchOf(inOrder, new Set(judge));
  // The stretch as a table of its own: its rows follow one another.
  const kept = [...new Set([...features.map(({ name }) => name), roles.target])];
  const own = selectRows(table, stretch, kept);
  const placeOf = new Map(Array.from(stretch, (row, place) => [row, place]));
  const places = (rows: Int32Array) =>
    Int32Array.from(Array.from(rows).flatMap((row) => placeOf.get(row) ?? [])).sort();
  const ordered = Int32Array.from({ length: stretch.length }, (_, i) => i);
  const block = seriesColumns(
    own.columns.filter(
      (column): column is NumberColumn =>
        column.kind === 'number' &&
        column.name !== orderName &&
        measured.slice(0, MOST_FEATURES).some(({ name }) => name === column.name),
    ),
    ordered,
    stretch.map((row) => at(groups, row)),
  );
  const [toFit, toJudge] = sides(places(fit), places(judge));
  return gainOf({
    table: own,
    roles,
    base: features.filter((column) => column.kind !== 'text').map(({ name }) => name),
    block,
    fit: thinned(toFit),
    judge: thinned(toJudge),
  });
}

function identifierCheck({ table, roles, fit, judge }: LearnedAudit): Check | null {
  if (roles.identifier === null) return null;
  const block = identifierColumns(columnNamed(table, roles.identifier), table.rowCount);
  const gain = gainOf({
    table,
    roles,
    base: featuresOf(table, roles)
      .filter((column) => column.kind !== 'text')
      .map(({ name }) => name),
    block,
    fit: thinned(fit),
    judge: thinned(judge),
  });
  if (gain === 'too few') return tooFew('identifier-parts', `the parts of ${roles.identifier}`, judge);
  return gain === 'none'
    ? check(
        'identifier-parts',
        'holds',
        `A model of the parts of ${roles.identifier} gains nothing beyond chance`,
      )
    : verdict('identifier-parts', `Parts of ${roles.identifier}`, roles.target, gain);
}

/** Held-out rows that have the features of a row that students get with its target. */
function twinsCheck({ table, roles, fit, judge }: LearnedAudit): Check | null {
  const features = featuresOf(table, roles);
  if (features.length === 0) return null;
  const [given, held] = [new Set(fit), new Set(judge)];
  // Rows that are given come first, so that each held-out row is met with one of them where there is one.
  const order = Int32Array.from([...fit, ...judge]);
  const alike = firstAlike(
    selectRows(
      table,
      order,
      features.map(({ name }) => name),
    ).columns,
    order.length,
  );
  const { codes } = labelsOf(columnNamed(table, roles.target));
  const pairs = Array.from(order, (row, place) => ({ row, twin: at(order, at(alike, place)) })).filter(
    ({ row, twin }) => held.has(row) && given.has(twin),
  );
  const same = pairs.filter(({ row, twin }) => codes[row] === codes[twin]).length;
  const gain = gainOfTwins({
    table,
    roles,
    base: features.filter((column) => column.kind !== 'text').map(({ name }) => name),
    fit: thinned(fit),
    pairs,
  });
  const counts =
    pairs.length === 0
      ? 'No held-out row has the features of a row that is given with its target'
      : `${counted(pairs.length, 'held-out row')} ${pairs.length === 1 ? 'has' : 'have'} the features of a row that is given with its target; ${same} of them have its target too`;
  return check(
    'twins',
    typeof gain === 'object' ? 'unsure' : 'holds',
    typeof gain === 'object' ? `${counts}: it predicts them better than the features do` : counts,
    {
      measured: `${pairs.length} of ${counted(judge.length, 'held-out row')}`,
      expected: 'none, or no more than chance brings where features have few values',
    },
  );
}
