import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { begunPlan } from '../../data/sentence/begun.js';
import { shownParameters } from '../../data/sentence/sentence.js';
import type { Roles } from '../../data/table/roles.js';
import { rowNames } from '../../data/formats/assignment.js';
import { assignmentOf, foldCsv } from './fold-assignment.js';
import { foldConsequences, MOST_FOLDS } from '../../audit/consequences/fold-consequences.js';
import { FOLD_SPLITTERS, foldSplitterOf, foldPlanOf } from './registry.js';
import { makeFolds } from './folds.js';

const N = 60;
const table = tableOf(
  `id,day,hive,x,lost\n${Array.from({ length: N }, (_, i) => `h${i},${i},${'ABCDEF'[i % 6]},${i * 2},${i % 3 ? 'no' : 'yes'}`).join('\n')}\n`,
);
const roles: Roles = {
  target: 'lost',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: 'hive',
  time: 'day',
  weight: null,
  withheld: [],
};
const usable = new Uint8Array(N).fill(1);
const made = (kind: string, values: Record<string, number | string> = {}) => {
  const begun = begunPlan(foldSplitterOf({ kind }), table.columns, roles);
  const plan = foldPlanOf({ kind, values: { ...begun.values, ...values } }, table.columns);
  const folds = makeFolds(table, plan, usable);
  return { folds, told: foldConsequences(table, roles, plan, folds, usable) };
};
const outcome = (told: ReturnType<typeof made>['told'], id: string) =>
  told.checks.find((check) => check.id === id)?.outcome;

describe('ways of making folds', () => {
  it('have sentences of nothing but their own parameters, and make folds as they begin', () => {
    for (const kind of FOLD_SPLITTERS) {
      const begun = begunPlan(kind, table.columns, roles);
      for (const key of shownParameters(kind, begun)) expect(Object.keys(kind.parameters)).toContain(key);
      expect(made(kind.key).told.rows).toBe(N);
    }
  });

  it('name the parameter that is wrong', () => {
    expect(() => made('draw', { k: 1 })).toThrow('number of folds is at least 2.');
    expect(() => made('draw', { group: 'nowhere' })).toThrow('There is no column “nowhere”.');
    expect(() => made('expanding', { time: 'hive' })).toThrow('must hold dates or numbers');
  });
});

describe('what follows from folds', () => {
  it('counts every tested row once, by group, and keeps groups whole', () => {
    const { told } = made('draw', { k: 3, stratify: '', group: 'hive' });
    expect(told.folds.map(({ tested, training }) => [tested, training])).toEqual([
      [20, 40],
      [20, 40],
      [20, 40],
    ]);
    expect(told.map.reduce((n, cell) => n + cell.rows, 0)).toBe(N);
    expect(told.map.map(({ rows }) => rows)).toEqual([10, 10, 10, 10, 10, 10]);
    expect([outcome(told, 'groups'), outcome(told, 'tested')]).toEqual(['holds', 'holds']);
  });

  it('says when a group is on both sides', () => {
    expect(outcome(made('draw', { group: '', stratify: '' }).told, 'groups')).toBe('fails');
  });

  it('gives equal shares where it is asked to', () => {
    const { told } = made('draw', { group: '', stratify: 'lost', k: 4 });
    expect(outcome(told, 'shares')).toBe('holds');
    expect(told.folds.map(({ classes }) => classes[1]?.share)).toEqual(Array(4).fill(1 / 3));
  });

  it('shows the time that each fold trains on and tests', () => {
    const { told } = made('expanding', { k: 3, gap: 2 });
    expect(told.time).toEqual({ column: 'day', isDate: false });
    for (const { span } of told.folds)
      expect((span?.tested[0] ?? 0) - (span?.training[1] ?? 0)).toBeGreaterThan(2);
    expect([outcome(told, 'tested'), outcome(told, 'groups')]).toEqual(['holds', 'unsure']);
  });

  it('tells no more folds one by one than can be read', () => {
    const { told } = made('leave-one-out');
    expect([told.count, told.folds.length, told.smallest, told.largest]).toEqual([N, MOST_FOLDS, 1, 1]);
  });
});

describe('a fold table', () => {
  it('names each row, its repeat and its fold from 1', () => {
    const { folds } = made('draw', { k: 2, repeats: 2, group: '', stratify: '' });
    const csv = foldCsv(rowNames(table, 'id'), assignmentOf(folds), Int32Array.of(0, 5));
    const fold = (repeat: number, row: number) => (folds.tests[repeat]?.[row] ?? 0) + 1;
    expect(csv).toBe(
      `id,repeat,fold\nh0,1,${fold(0, 0)}\nh5,1,${fold(0, 5)}\nh0,2,${fold(1, 0)}\nh5,2,${fold(1, 5)}\n`,
    );
  });

  it('says of the bootstrap how often a row was drawn', () => {
    const { folds } = made('bootstrap', { repeats: 3 });
    const { drawn } = assignmentOf(folds);
    for (const [repeat, times] of (drawn ?? []).entries()) {
      expect(times.reduce((a, b) => a + b, 0)).toBe(N);
      times.forEach((n, row) => expect(n === 0).toBe(folds.tests[repeat]?.[row] === 0));
    }
  });
});

describe('groups in folds', () => {
  it('that are split are counted, the first of them too', () => {
    const { told } = made('draw', { stratify: '', group: '', k: 3 });
    // Six hives of ten rows each, assigned at random: every one of them is trained on and tested.
    const check = told.checks.find(({ id }) => id === 'groups');
    expect(check).toMatchObject({ outcome: 'fails', measured: expect.stringMatching(/^6 of 6/) });
    expect(check?.examples.map(({ text }) => text).join()).toContain('A');
  });
});
