import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../../test/files.js';
import { secretOf } from '../../../test/secrets.js';
import { IRIS_ROLES } from '../../../test/plans.js';
import { seededRandom } from '../../foundation/random/random.js';
import { splitRows } from '../../splitting/splits/split.js';
import type { Roles } from '../../data/table/roles.js';
import { makePack, refusalOf } from './pack.js';
import { irisRoles, request, keyOf, rulesOf, filesOf } from './pack-of-tests.js';

describe('random identifiers', () => {
  const table = tableOf(
    `id,x,y\n${Array.from({ length: 60 }, (_, i) => `hive ${i},${(i * 7) % 13},${(i * 7) % 5 < 2 ? 'p' : 'q'}`).join('\n')}\n`,
  );
  const roles: Roles = { ...IRIS_ROLES, target: 'y', task: 'binary', positive: 'p', identifier: 'id' };

  it('stand in every file in place of the rows’ own, each once, and the keys still fit', () => {
    const made = makePack(request(table, roles, { reissued: true }));
    const files = filesOf(made.zip);
    const idsIn = (name: string) =>
      (files[name] ?? '')
        .trim()
        .split('\n')
        .slice(1)
        .map((line) => line.split(',')[0] ?? '');
    const all = ['training.csv', 'validation.csv', 'held-out.csv'].flatMap(idsIn);
    expect(all.sort()).toEqual(Array.from({ length: 60 }, (_, i) => String(i + 1).padStart(2, '0')));
    expect(JSON.stringify(files)).not.toContain('hive ');
    const own = keyOf(makePack(request(table, roles)));
    expect(keyOf(made).classes).toEqual(own.classes);
    expect(idsIn('held-out.csv')).toEqual(rulesOf(made).identifiers);
  });

  it('are others for another secret, and change nothing where rows have none', () => {
    const ids = (number: number) =>
      rulesOf(makePack(request(table, roles, { reissued: true, secret: secretOf(number) })))
        .identifiers.slice()
        .sort();
    expect(ids(1)).not.toEqual(ids(2));
    expect(makePack(request(iris(), irisRoles, { reissued: true })).zip).toEqual(
      makePack(request(iris(), irisRoles)).zip,
    );
  });
});

describe('the audit', () => {
  const random = seededRandom(3);
  const rows = Array.from({ length: 200 }, (_, i) => {
    const y = random.below(2) ? 'yes' : 'no';
    return {
      y,
      copy: y === 'yes' ? 'a' : 'b',
      sorted: `${y === 'yes' ? 'A' : 'B'}${String(i).padStart(3, '0')}`,
    };
  });
  const roles: Roles = {
    target: 'y',
    task: 'binary',
    positive: 'yes',
    identifier: 'id',
    group: null,
    time: null,
    weight: null,
    withheld: [],
  };

  it('refuses a pack in which a feature gives every answer', () => {
    const table = tableOf(`id,copy,y\n${rows.map((r, i) => `i${i},${r.copy},${r.y}`).join('\n')}\n`);
    expect(refusalOf(makePack(request(table, roles)).audit, 'because')?.message).toBe(
      'The pack is not released: copy gives the target of nearly every held-out row; withhold it at Look.',
    );
    expect(refusalOf(makePack(request(table, { ...roles, withheld: ['copy'] })).audit, '')).toBeNull();
  });

  describe('of a series whose target is what is measured next', () => {
    const random = seededRandom(12);
    const readings = Array.from({ length: 2 }, () => {
      let weight = 20;
      return Array.from({ length: 121 }, () => (weight += random.unit() - 0.5).toFixed(2));
    });
    const lines = readings.flatMap((scale, hive) =>
      scale
        .slice(0, -1)
        .map((weight, day) => `h${hive}d${day},h${hive},${day},${weight},${scale[day + 1] ?? ''}`),
    );
    const table = tableOf(`id,hive,day,weight,tomorrow\n${lines.join('\n')}\n`);
    const series: Roles = {
      ...roles,
      target: 'tomorrow',
      task: 'regression',
      positive: null,
      group: 'hive',
      time: 'day',
    };
    const by = (kind: string, values: Record<string, string | number>) => {
      const own = { kind, values: { sized: 'percent', training: 60, validation: 0, heldout: 40, ...values } };
      return request(table, series, { plan: own, parts: splitRows(table, own).parts });
    };

    it('refuses held-out rows that follow one another, and names the feature and how much later it tells', () => {
      expect(refusalOf(makePack(by('time', { time: 'day', gap: 0 })).audit, '')?.message).toMatch(
        /The pack is not released: Rows that follow or precede a row give tomorrow as good as exactly \(weight 1 rows later\)/,
      );
    });

    it('refuses rows held out at random too, whose answers stand among the training rows', () => {
      const drawn = {
        kind: 'draw',
        values: {
          sized: 'percent',
          training: 60,
          validation: 0,
          heldout: 40,
          stratify: '',
          group: '',
          seed: 1,
        },
      };
      const asked = request(table, series, { plan: drawn, parts: splitRows(table, drawn).parts });
      expect(refusalOf(makePack(asked).audit, '')?.message).toContain('weight 1 rows later');
    });

    it('takes them where the predictive feature is withheld', () => {
      const asked = by('time', { time: 'day', gap: 0 });
      const made = makePack({ ...asked, roles: { ...series, withheld: ['weight'] } });
      expect(made.audit.filter(({ outcome }) => outcome === 'fails')).toEqual([]);
    });
  });

  it('notices identifiers whose order goes with the target', () => {
    const table = tableOf(`id,x,y\n${rows.map((r, i) => `${r.sorted},${i % 7},${r.y}`).join('\n')}\n`);
    expect(makePack(request(table, roles)).audit.find((c) => c.id === 'identifiers')).toMatchObject({
      outcome: 'unsure',
      measured: expect.stringContaining('area 1.00'),
    });
  });
});
