import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';
import { indices } from '../../foundation/numbers.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { learnedAudit, learnedAuditOf } from './audit.js';

const ROLES: Roles = {
  target: 'y',
  task: 'regression',
  positive: null,
  identifier: 'id',
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
const CLASSES: Partial<Roles> = { task: 'binary', positive: 'up' };
const DAYS = 420;

/** A walk, and with it a column of noise. */
function walk(random: Random, days = DAYS): number[] {
  let level = 50;
  return Array.from({ length: days + 40 }, () => (level += random.unit() - 0.5));
}

type Target = (x: readonly number[], day: number) => number | string;
/** One series a hive, whose target is made of the days that follow. */
function series(target: Target, { hives = 1, seed = 1, random = seededRandom(seed) } = {}): Table {
  const lines = Array.from({ length: hives }, (_, hive) => {
    const x = walk(random);
    return Array.from(
      { length: DAYS },
      (_, day) =>
        `h${hive}-${day},hive ${hive},${day},${(x[day] ?? 0).toFixed(4)},${(random.unit() * 9).toFixed(3)},${target(x, day)}`,
    );
  });
  return tableOf(`id,hive,day,x,noise,y\n${lines.flat().join('\n')}\n`);
}
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** Rows held out at random, or the last of them. */
const held = (table: Table, roles: Partial<Roles>, how: 'random' | 'last', seed = 3) => {
  const order = indices(table.rowCount);
  if (how === 'random') shuffle(order, seededRandom(seed));
  const cut = Math.floor(0.7 * order.length);
  return learnedAudit({
    table,
    roles: { ...ROLES, ...roles },
    fit: order.slice(0, cut).sort(),
    judge: order.slice(cut).sort(),
  });
};
const outcomes = (checks: ReturnType<typeof held>) =>
  Object.fromEntries(checks.map(({ id, outcome }) => [id, outcome]));

describe('a target that later rows give', () => {
  const ahead =
    (lead: number): Target =>
    (x, day) =>
      (x[day + lead] ?? 0).toFixed(4);
  const leaks: [string, Target, Partial<Roles>][] = [
    ['as it is, a day later', ahead(1), { time: 'day' }],
    ['in another unit', (x, day) => (1000 * (x[day + 1] ?? 0) + 7).toFixed(1), { time: 'day' }],
    ['rounded', (x, day) => Math.round(x[day + 1] ?? 0), { time: 'day' }],
    ['as a difference', (x, day) => ((x[day + 1] ?? 0) - (x[day] ?? 0)).toFixed(4), { time: 'day' }],
    ['as a moving mean', (x, day) => mean(x.slice(day + 1, day + 8)).toFixed(4), { time: 'day' }],
    ['20 rows ahead', ahead(20), { time: 'day' }],
    ['without a role for time', ahead(1), {}],
    [
      'as one of two classes',
      (x, day) => ((x[day + 1] ?? 0) > (x[day] ?? 0) ? 'up' : 'down'),
      { ...CLASSES, time: 'day' },
    ],
  ];

  it.each(leaks)('%s is found, held out at random and at the end', (_, target, roles) => {
    const table = series(target);
    for (const how of ['random', 'last'] as const)
      expect(['fails', 'unsure']).toContain(outcomes(held(table, roles, how))['series']);
  });

  it('is found within the series of each hive, and is as good as given', () => {
    const table = series(ahead(1), { hives: 4 });
    const found = held(table, { time: 'day', group: 'hive' }, 'random').find(({ id }) => id === 'series');
    expect(found?.outcome).toBe('fails');
    expect(found?.message).toContain('x 1 rows later');
    expect(found?.measured).toMatch(/leaves [\d.e-]+ % of the error, with them it leaves [\d.e-]+ %/);
  });

  it('is not found where the column is withheld', () => {
    expect(outcomes(held(series(ahead(1)), { time: 'day', withheld: ['x'] }, 'random'))['series']).toBe(
      'holds',
    );
  });
});

describe('identifiers that give the class', () => {
  const table = (name: (up: boolean, i: number) => string) => {
    const random = seededRandom(4);
    const lines = Array.from({ length: 400 }, (_, i) => {
      const up = random.below(2) === 1;
      return `${name(up, i)},${(random.unit() * 5).toFixed(3)},${up ? 'up' : 'down'}`;
    });
    return tableOf(`id,x,y\n${lines.join('\n')}\n`);
  };

  it.each([
    ['as a prefix', (up: boolean, i: number) => `${up ? 'S' : 'L'}-${i}`],
    ['as a suffix', (up: boolean, i: number) => `${i}${up ? 'b' : 'a'}`],
    ['by being odd or even', (up: boolean, i: number) => `c${2 * i + (up ? 1 : 0)}`],
    ['by their size', (up: boolean, i: number) => `c${(up ? 5000 : 1000) + i}`],
  ])('%s are found', (_, name) => {
    expect(outcomes(held(table(name), CLASSES, 'random'))['identifier-parts']).toBe('fails');
  });

  it('are found at Look, before anything is split', () => {
    const found = learnedAuditOf(
      table((up, i) => `${up ? 'S' : 'L'}-${i}`),
      { ...ROLES, ...CLASSES },
    );
    expect(outcomes(found)['identifier-parts']).toBe('fails');
  });

  it('that say nothing hold, and what was tried is said', () => {
    const [found] = held(
      table((_, i) => `c${i}`),
      CLASSES,
      'random',
    ).filter(({ id }) => id === 'identifier-parts');
    expect(found).toMatchObject({
      outcome: 'holds',
      message: 'A model of the parts of id gains nothing beyond chance',
    });
  });
});

describe('rows doubled under second identifiers', () => {
  it('are counted across parts', () => {
    const random = seededRandom(6);
    const lines = Array.from({ length: 200 }, (_, i) => {
      const rest = `${(random.unit() * 9).toFixed(4)},${(random.unit() * 9).toFixed(4)},${random.below(2) ? 'up' : 'down'}`;
      return `a${i},${rest}\nb${i},${rest}`;
    });
    const table = tableOf(`id,x,z,y\n${lines.join('\n')}\n`);
    const found = held(table, CLASSES, 'random').find(({ id }) => id === 'twins');
    expect(found?.outcome).toBe('unsure');
    expect(found?.message).toMatch(
      /^\d+ held-out rows have the features of a row that is given with its target; \d+ of them have its target too: it predicts them better than the features do$/,
    );
  });

  it('are no news where a rare class shares its numbers by chance', () => {
    const random = seededRandom(8);
    const lines = Array.from(
      { length: 800 },
      (_, i) =>
        `${i},${(random.unit() + random.unit()).toFixed(3)},${random.below(16) === 0 ? 'up' : 'down'}`,
    );
    const found = held(tableOf(`id,x,y\n${lines.join('\n')}\n`), CLASSES, 'random');
    const twins = found.find(({ id }) => id === 'twins');
    expect(twins?.message).toMatch(/^\d\d+ held-out rows have the features/);
    expect(twins?.outcome).toBe('holds');
  });

  it('are no news where features have few values', () => {
    const lines = Array.from(
      { length: 300 },
      (_, i) => `${i},${i % 3},${(i * 7) % 4},${i % 2 ? 'up' : 'down'}`,
    );
    expect(outcomes(held(tableOf(`id,x,z,y\n${lines.join('\n')}\n`), CLASSES, 'random'))['twins']).toBe(
      'holds',
    );
  });
});

describe('what was not tried', () => {
  it('is said where there are too few rows', () => {
    const random = seededRandom(9);
    const lines = Array.from(
      { length: 50 },
      (_, i) => `c${i},${random.unit().toFixed(3)},${random.below(2) ? 'up' : 'down'}`,
    );
    const found = held(tableOf(`id,x,y\n${lines.join('\n')}\n`), CLASSES, 'random');
    expect(found.find(({ id }) => id === 'identifier-parts')).toMatchObject({
      outcome: 'holds',
      message: 'A model of the parts of id was not tried: there are too few rows to judge it by',
      measured: '15 held-out rows',
    });
  });
});

describe('honest tables', () => {
  it('raise no alarm where the held-out end of a series has come to another level', () => {
    const random = seededRandom(10);
    const lines = Array.from({ length: DAYS }, (_, day) => {
      const level = 4 * Math.sin(day / 40) - (day > 290 ? 9 : 0) + random.unit();
      return `d${day},${day},${level.toFixed(3)},${level + random.unit() > 1 ? 'up' : 'down'}`;
    });
    const checks = held(tableOf(`id,day,x,y\n${lines.join('\n')}\n`), { ...CLASSES, time: 'day' }, 'last');
    expect(outcomes(checks)['series']).toBe('holds');
  });

  it('raise no alarm: open data sets, held out at random', () => {
    const sets: [Table, Partial<Roles>][] = [
      [iris(), { target: 'target', task: 'multiclass', identifier: null }],
      [diabetes(), { target: 'target', identifier: null }],
    ];
    for (const [table, roles] of sets)
      for (let seed = 0; seed < 5; seed++)
        expect(Object.values(outcomes(held(table, roles, 'random', seed)))).not.toContain('fails');
  });
});
