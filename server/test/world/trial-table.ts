import type { Plan } from '@modest-sieve/core/data';
import type { TrialPlan } from '@modest-sieve/core/evaluation';
import type { Schemas } from './schemas.js';
import { courseWithTable } from './class.js';
import { until, type World } from './world.js';
import { Visitor } from './visitor.js';

export const ROWS = 240;

/** Colonies whose survival depends on their weight, with noise that a deep tree memorises. */
const TABLE = `colony,hive,weight,mites,forage,lost\n${Array.from({ length: ROWS }, (_, i) => {
  const weight = (i * 37) % 101;
  const noisy = (i * 53) % 7 < 1;
  const lost = weight < 40 !== noisy ? 'yes' : 'no';
  return `c${i},${'ABCDEFGHIJ'[i % 10]},${weight},${(i * 29) % 83},${['heather', 'lime', 'rape'][i % 3]},${lost}`;
}).join('\n')}\n`;

export const plan = (model: Plan, more: Partial<TrialPlan> = {}): TrialPlan => ({
  model,
  features: ['weight', 'mites', 'forage'],
  vary: [],
  metric: 'accuracy',
  choose: 'simplest',
  weight: null,
  seed: 1,
  ...more,
});

/** The table in a course of its own, with a split, folds of its training rows and folds of all rows. */
export async function tableForTrials(world: World) {
  const ada = await new Visitor(world.address).signUp('Ada Instructor');
  const { course, dataSet } = await courseWithTable(ada, 'colonies.csv', TABLE);
  await ada.call('PUT', `${dataSet}/roles`, {
    target: 'lost',
    task: 'binary',
    positive: 'yes',
    identifier: 'colony',
    group: 'hive',
    time: null,
    weight: null,
    withheld: [],
  });
  const split = {
    sized: 'percent',
    training: 60,
    validation: 20,
    heldout: 20,
    stratify: 'lost',
    group: '',
    seed: 3,
  };
  const saved = await ada.call<{ id: string }>('POST', `${dataSet}/splits`, { kind: 'draw', values: split });
  const splitId = saved.body.id;
  const folds = { kind: 'draw', values: { k: 4, stratify: 'lost', group: '', repeats: 1, seed: 5 } };
  const sets = [splitId, null].map((of) =>
    ada.call<{ id: string }>('POST', `${dataSet}/fold-sets`, { plan: folds, splitId: of }),
  );
  const [foldSetId = '', foldsOfAll = ''] = (await Promise.all(sets)).map((made) => made.body.id);

  const start = (asked: unknown, set = foldSetId) =>
    ada.call<{ id: string; code: string }>('POST', `${dataSet}/trials`, { foldSetId: set, plan: asked });

  /** A trial that has ended. */
  async function ended(id: string): Promise<Schemas['TrialDetail']> {
    const { body } = await until(
      () => ada.call<Schemas['TrialDetail']>('GET', `${dataSet}/trials/${id}`),
      (answer) => answer.body.state !== 'waiting',
    );
    return body;
  }

  async function tried(asked: TrialPlan, set = foldSetId): Promise<Schemas['TrialDetail']> {
    const { status, body } = await start(asked, set);
    if (status !== 202) throw new Error(`a trial was refused with ${status}: ${body.code}`);
    return ended(body.id);
  }

  return { ada, course, dataSet, splitId, foldSetId, foldsOfAll, start, ended, tried };
}
