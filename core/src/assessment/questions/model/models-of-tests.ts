import { asked, begun, fileOf, material } from '../../../../test/asked.js';
import { tableOf } from '../../../../test/files.js';
import { fit } from '../../../../test/models.js';
import { FEEDBACK, FINAL } from '../../material/held-out.js';
import { runModel } from '../../model-files/index.js';
import type { Fitted } from '../../../models/fitted.js';
import { at } from '../../../foundation/numbers.js';
import { seededRandom, type Random } from '../../../foundation/random/random.js';
import type { Roles } from '../../../data/table/roles.js';
import type { Material } from '../../material/material.js';
import type { ModelQuestion, ModelRules } from './question.js';

const ROLES: Roles = {
  target: 'survived',
  task: 'binary',
  positive: 'yes',
  identifier: 'colony',
  group: null,
  time: null,
  weight: null,
  withheld: ['honey'],
};

/** The sum of twelve uniform numbers, less 6: nearly normal. */
export const normal = (random: Random) =>
  Array.from({ length: 12 }, () => random.unit()).reduce((a, b) => a + b, -6);

/** Colonies whose honey depends on weight and mites, which stand in units of their own. */
export function yields(n = 400): Material {
  const random = seededRandom(20261202);
  const lines = Array.from({ length: n }, (_, i) => {
    const [weight, mites] = [normal(random), normal(random)];
    const honey = 20 + 4 * weight - 2 * mites + 2 * normal(random);
    return `c${i},${(31 + 4 * weight).toFixed(2)},${(60 + 25 * mites).toFixed(1)},${honey.toFixed(2)}`;
  });
  const given = Math.round(n * 0.6);
  return material({
    table: tableOf(`colony,weight,mites,honey\n${lines.join('\n')}\n`),
    roles: { ...ROLES, target: 'honey', task: 'regression', positive: null, withheld: [] },
    parts: Int8Array.from({ length: n }, (_, i) => (i < given ? 0 : 2)),
    division: Uint8Array.from({ length: n }, (_, i) => (i < given ? 0 : i % 2 ? FEEDBACK : FINAL)),
  });
}

/** Colonies whose survival depends on weight and mites, with noise; 60 % given, the rest held out for both purposes. */
export function colonies(n = 500, seed = 20261129): Material {
  const random = seededRandom(seed);
  const lines = Array.from({ length: n }, (_, i) => {
    const [weight, mites, site] = [normal(random), normal(random), at(['east', 'west'], random.below(2))];
    const odds = 1.5 * weight - mites + (site === 'west' ? 0.5 : 0);
    const survived = random.unit() < 1 / (1 + Math.exp(-odds)) ? 'yes' : 'no';
    const honey = survived === 'yes' ? 1 : 0;
    return `c${i},${weight.toFixed(3)},${mites.toFixed(3)},${normal(random).toFixed(3)},${site},${honey},${survived}`;
  });
  const given = Math.round(n * 0.6);
  return material({
    table: tableOf(`colony,weight,mites,noise,site,honey,survived\n${lines.join('\n')}\n`),
    roles: ROLES,
    parts: Int8Array.from({ length: n }, (_, i) => (i < given ? 0 : 2)),
    division: Uint8Array.from({ length: n }, (_, i) => (i < given ? 0 : i % 2 ? FEEDBACK : FINAL)),
  });
}

export const FROM = colonies();

export const GOOD = 'term,estimate\n(intercept),0\nweight,1.5\nmites,-1\nsite=west,0.5\n';

export const SCHEME = { nothing: 0.5, most: 0.75, all: 0.9, mostMarks: 8, marks: 10 };

export const question = (over: Partial<ModelQuestion> = {}): ModelQuestion =>
  begun('model', {
    metric: 'accuracy',
    scheme: SCHEME,
    ...over,
    values: {
      takes: 'any',
      link: 'logit',
      without: [],
      features: 'given',
      coefficients: 'ignored',
      overfitted: 100,
      ...over.values,
    },
  });

/** A model handed in to a question, after it was run. */
export async function handed(text: string | Uint8Array, name: string, handing: Handing = {}) {
  const { of = question(), from = FROM, fields = {}, rules: over = {} } = handing;
  const made = asked(of, from);
  const { rules, key } = made;
  if (!('takes' in rules) || !('features' in key)) throw new Error('no question for a model');
  const file = fileOf(text, name);
  const run = await runModel({
    ...file,
    fields,
    rules: { ...rules, ...over },
    training: key.training.features,
    heldOut: key.features,
    without: key.without,
  });
  return { ...made, run, result: made.hand({ file, fields, run }) };
}

export const tree = (depth: number, from = FROM) =>
  fit(
    from.table,
    'survived',
    'binary',
    'tree',
    { depth, rows_per_leaf: 1, rows_per_split: 2 },
    {
      features: ['weight', 'mites', 'noise', 'site'],
      rows: Int32Array.from(from.parts.keys()).filter((row) => from.parts[row] === 0),
    },
  );

export const logistic = (from = FROM): Fitted =>
  fit(
    from.table,
    'survived',
    'binary',
    'logistic',
    {},
    {
      features: ['weight', 'mites', 'site'],
      rows: Int32Array.from(from.parts.keys()).filter((row) => from.parts[row] === 0),
    },
  );

export interface Handing {
  readonly of?: ModelQuestion;
  readonly from?: Material;
  readonly fields?: Record<string, string>;
  /** Rules that are others than the question's. */
  readonly rules?: Partial<ModelRules>;
}
