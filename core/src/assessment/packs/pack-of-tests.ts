import { strFromU8, unzipSync } from 'fflate';
import { secretOf } from '../../../test/secrets.js';
import { draw, IRIS_ROLES } from '../../../test/plans.js';
import { metricNamed } from '../../metrics/registry.js';
import { splitRows } from '../../splitting/splits/split.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { type Pack } from './pack.js';
import { type PackRequest } from './pack-request.js';
import type { AnswerKey } from '../files/judge.js';
import type { PredictionRules } from '../files/rules.js';
import { firstScheme } from '../marking/scheme.js';
import type { PredictionsQuestion } from '../questions/predictions/question.js';

export const shares = { training: 60, validation: 10, heldout: 30 };

export const plan = draw({ shares, seed: 4 });

export const irisRoles: Roles = { ...IRIS_ROLES, withheld: ['petal_width'] };

/** A question of predictions that is judged by a metric. */
export const judgedBy = (metric: string): PredictionsQuestion => ({
  id: 'q1',
  kind: 'predictions',
  title: 'Predict',
  text: '',
  metric,
  scheme: firstScheme(metricNamed(metric), 0.1),
});

export const request = (table: Table, roles: Roles, over: Partial<PackRequest> = {}): PackRequest => ({
  table,
  roles,
  plan,
  parts: splitRows(table, plan).parts,
  folds: null,
  curves: {},
  references: [],
  descriptions: {},
  questions: [judgedBy(roles.task === 'regression' ? 'rmse' : 'accuracy')],
  title: 'Grains',
  brief: 'Name each grain.',
  conditions: [],
  reissued: false,
  reserve: new Uint8Array(table.rowCount),
  earlier: [],
  secret: secretOf(77),
  ...over,
});

/** The key of the predictions question of a pack. */
export function keyOf({ keys }: Pack): AnswerKey {
  const key = keys['q1']?.key;
  if (!key || !('feedback' in key)) throw new Error('no key');
  return key;
}

export function rulesOf({ questions: [first] }: Pack): PredictionRules {
  if (!first || !('needs' in first.rules && 'identifiers' in first.rules)) throw new Error('no rules');
  return first.rules;
}

export const filesOf = (zip: Uint8Array) =>
  Object.fromEntries(Object.entries(unzipSync(zip)).map(([name, bytes]) => [name, strFromU8(bytes)]));
