// The learned audit of packs on tables that are made up: honest ones, which must hold, and ones that leak, which must not.
import { Buffer } from 'node:buffer';
import { seededRandom, shuffle } from '../../core/dist/foundation/index.js';
import { readCsv } from '../../core/dist/data/index.js';
import { learnedAudit } from '../../core/dist/audit/learned/audit.js';
import { indices } from '../../core/dist/foundation/numbers.js';

const ROLES = {
  target: 'y',
  task: 'regression',
  positive: null,
  identifier: 'id',
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
const CLASSES = { task: 'binary', positive: 'up' };

const normal = (random) =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());
const digits = (value) => value.toFixed(3);
/** A target of either task from a figure around 0. */
const target = (isClass, value) => (isClass ? (value > 0 ? 'up' : 'down') : digits(value));

/** Levels of a series in which each day takes after the one before it. */
function walk(random, days) {
  let level = 0;
  return Array.from({ length: days }, () => (level = 0.97 * level + normal(random)));
}

function sameDay(random, rows, isClass) {
  const lines = walk(random, rows).map((level, day) => [
    `d${day}`,
    String(day),
    digits(level),
    target(isClass, level + normal(random)),
  ]);
  return { header: ['day', 'x'], roles: { time: 'day' }, lines };
}

/**
 * Kinds of tables: the columns between identifier and target, a line for each row, and roles. `last` says that the last
 * rows are held out, `groups` that whole groups are; otherwise rows are held out at random.
 */
const HONEST = {
  'nothing predicts the target': (random, rows, isClass) => ({
    header: ['a', 'b'],
    lines: Array.from({ length: rows }, (_, i) => [
      `r${i}`,
      digits(normal(random)),
      digits(normal(random)),
      target(isClass, normal(random)),
    ]),
  }),
  'numbers that predict it, some skewed, some missing': (random, rows, isClass) => ({
    header: ['a', 'b', 'c'],
    lines: Array.from({ length: rows }, (_, i) => {
      const [a, b] = [normal(random), Math.exp(1.5 * normal(random))];
      const missing = random.unit() < 0.05;
      return [
        `${1000 + i}`,
        digits(a),
        missing ? '' : digits(b),
        digits(random.unit()),
        target(isClass, a + 0.5 * Math.log(b) + 0.7 * normal(random)),
      ];
    }),
  }),
  'categories that predict it': (random, rows, isClass) => ({
    header: ['make', 'colour'],
    lines: Array.from({ length: rows }, (_, i) => {
      const make = random.below(12);
      return [
        `c-${String(i).padStart(4, '0')}`,
        `make ${make}`,
        ['red', 'green', 'blue'][random.below(3)],
        target(isClass, (make - 6) / 4 + normal(random)),
      ];
    }),
  }),
  'columns that predict it nearly always': (random, rows, isClass) => ({
    header: ['a', 'b'],
    lines: Array.from({ length: rows }, (_, i) => {
      const [a, b] = [normal(random), normal(random)];
      return [`v${3 * i}`, digits(a), digits(b), target(isClass, a + b / 2 + 0.05 * normal(random))];
    }),
  }),
  'two classes, one of them rare': (random, rows) => ({
    header: ['a'],
    roles: CLASSES,
    lines: Array.from({ length: rows }, (_, i) => {
      const isRare = random.unit() < 0.06;
      return [`p${i}`, digits(normal(random) + (isRare ? 2 : 0)), isRare ? 'up' : 'down'];
    }),
  }),
  'groups, each with a level of its own, held out whole': (random, rows, isClass) => {
    const level = Array.from({ length: 20 }, () => normal(random));
    return {
      header: ['site', 'a'],
      roles: { group: 'site' },
      groups: 20,
      lines: Array.from({ length: rows }, (_, i) => {
        const site = Math.floor((20 * i) / rows);
        const a = normal(random);
        return [
          `s${site}-${i}`,
          `site ${site}`,
          digits(a),
          target(isClass, level[site] + a + normal(random)),
        ];
      }),
    };
  },
  'a series whose days show their own target': (random, rows, isClass) => sameDay(random, rows, isClass),
  'the same, the last held out': (random, rows, isClass) => ({
    ...sameDay(random, rows, isClass),
    last: true,
  }),
  'a series that rises, the last held out': (random, rows, isClass) => ({
    header: ['day', 'x'],
    roles: { time: 'day' },
    last: true,
    lines: walk(random, rows).map((level, day) => [
      `d${day}`,
      String(day),
      digits(level),
      target(isClass, level / 3 + (2 * day) / rows - 1 + normal(random)),
    ]),
  }),
};

const LEAKING = {
  'the target is a column of the next day': (random, rows, isClass) => {
    const x = walk(random, rows + 1);
    return {
      header: ['day', 'x'],
      roles: { time: 'day' },
      lines: Array.from({ length: rows }, (_, day) => [
        `d${day}`,
        String(day),
        digits(x[day]),
        target(isClass, x[day + 1]),
      ]),
    };
  },
  'the target is the mean of the week that follows': (random, rows, isClass) => {
    const x = walk(random, rows + 8);
    return {
      header: ['day', 'x'],
      roles: { time: 'day' },
      lines: Array.from({ length: rows }, (_, day) => {
        const week = x.slice(day + 1, day + 8);
        return [
          `d${day}`,
          String(day),
          digits(x[day]),
          target(isClass, week.reduce((a, b) => a + b, 0) / week.length),
        ];
      }),
    };
  },
  'rows doubled under second identifiers': (random, rows, isClass) => ({
    header: ['a', 'b'],
    lines: Array.from({ length: Math.ceil(rows / 2) }, (_, i) => {
      const rest = [digits(normal(random)), digits(normal(random)), target(isClass, normal(random))];
      return [
        [`a${i}`, ...rest],
        [`b${i}`, ...rest],
      ];
    })
      .flat()
      .slice(0, rows),
  }),
  'identifiers whose first letter shows the target': (random, rows, isClass) => ({
    header: ['a'],
    lines: Array.from({ length: rows }, (_, i) => {
      const value = normal(random);
      return [`${value > 0 ? 'S' : 'L'}${i}`, digits(normal(random)), target(isClass, value)];
    }),
  }),
  'identifiers in the order of the target': (random, rows, isClass) => {
    const values = Array.from({ length: rows }, () => normal(random)).sort((a, b) => a - b);
    return {
      header: ['a'],
      lines: values.map((value, i) => [`r${i}`, digits(normal(random)), target(isClass, value)]),
    };
  },
};

/** What the audit says of one table: the worst of its outcomes. */
function audited(make, seed, name) {
  const random = seededRandom(seed, name);
  const isClass = seed % 2 === 1;
  // The first numbers of neighbouring seeds resemble one another.
  for (let i = 0; i < 8; i++) random.unit();
  const rows = 60 + random.below(800);
  const { header, lines, roles = {}, last = false, groups } = make(random, rows, isClass);
  const csv = `${['id', ...header, 'y'].join(',')}\n${lines.map((line) => line.join(',')).join('\n')}\n`;
  const { table } = readCsv(Buffer.from(csv), { file: 'made-up.csv' });
  const order = indices(rows);
  if (!last) shuffle(order, random);
  const cut = Math.floor(0.7 * rows);
  const isHeldOut = new Uint8Array(rows);
  if (groups === undefined) for (const row of order.subarray(cut)) isHeldOut[row] = 1;
  else order.forEach((row) => (isHeldOut[row] = Math.floor((groups * row) / rows) % 3 === seed % 3 ? 1 : 0));
  const checks = learnedAudit({
    table,
    roles: { ...ROLES, ...(isClass ? CLASSES : {}), ...roles },
    fit: indices(rows).filter((row) => !isHeldOut[row]),
    judge: indices(rows).filter((row) => isHeldOut[row]),
  });
  const outcomes = new Set(checks.map(({ outcome }) => outcome));
  return outcomes.has('fails') ? 'fails' : outcomes.has('unsure') ? 'unsure' : 'holds';
}

/** @returns for each kind of table, how often the audit held, was unsure and failed */
export function auditRun({ tables = 40 } = {}) {
  const kinds = [
    ...Object.entries(HONEST).map(([name, make]) => ({ name, make, honest: true })),
    ...Object.entries(LEAKING).map(([name, make]) => ({ name, make, honest: false })),
  ];
  return kinds.map(({ name, make, honest }) => {
    const found = { holds: 0, unsure: 0, fails: 0 };
    for (let seed = 0; seed < tables; seed++) found[audited(make, seed, name)]++;
    return { name, honest, ...found };
  });
}
