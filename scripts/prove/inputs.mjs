// What no program sends, to every route: a fixed list, and bodies made at random after the description of the API.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { seededRandom } from '../../core/dist/foundation/index.js';
import { ROOT } from '../machine.mjs';
import { fileOf, joined, releasedExercise } from './people.mjs';
import { startProcess } from './program.mjs';

const SEED = 20261128;
/** What would end the session or the account of the person who tries. */
const ENDS = new Set(['DELETE /api/v1/session', 'DELETE /api/v1/sessions']);
const NOBODY = '00000000-0000-4000-8000-000000000000';

const deep = (levels) => JSON.parse(`${'['.repeat(levels)}${']'.repeat(levels)}`);
const HOSTILE = [
  'a\u0000b',
  '\ud800',
  deep(2000),
  1e300,
  -1,
  0.5,
  null,
  [[], {}, null],
  { toString: 1, constructor: null, length: -1, ['__proto__']: [] },
  'x'.repeat(100_000),
  '99999999999999999999999',
];
/** Smaller ones, of which one may stand anywhere in a body that is otherwise right. */
const ODD = [
  ...HOSTILE.filter((value) => JSON.stringify(value).length < 1000),
  '',
  ' ',
  'constructor',
  '__proto__',
  "'; --",
  '=1+1',
  NOBODY,
  '2026-02-30T25:61:00Z',
  '+275760-09-13T00:00:00.001Z',
  'NaN',
  0,
  -0,
  2 ** 31,
  2 ** 53,
  1e-320,
  true,
  [],
  {},
  ['a', 1, null],
];
const IN_ADDRESSES = [
  '%00',
  '%ED%A0%80',
  '99999999999999999999999',
  '-1',
  '1e400',
  "'%22%3B--",
  '%',
  '..%2F..',
];

/** A value after a schema; now and then an odd one in its place. */
function valueOf(schema, { schemas, random, oddness, depth = 0 }) {
  const inside = { schemas, random, oddness, depth: depth + 1 };
  const one = (list) => list[random.below(list.length)];
  if (random.unit() < oddness) return one(ODD);
  if (schema === undefined || schema === true || depth > 8) return one(ODD);
  if (schema.$ref) return valueOf(schemas[schema.$ref.split('/').at(-1)], inside);
  if ('const' in schema) return schema.const;
  if (schema.enum) return one(schema.enum);
  if (schema.anyOf) return valueOf(one(schema.anyOf), inside);
  switch (Array.isArray(schema.type) ? one(schema.type) : schema.type) {
    case 'string':
      return one(['y', 'id', 'x', 'yes', 'accuracy', 'A title', 'q1', NOBODY, new Date().toISOString()]);
    case 'number':
    case 'integer':
      return one([0, 1, 2, 5, 10, 50, 0.25, 100]);
    case 'boolean':
      return random.below(2) === 1;
    case 'null':
      return null;
    case 'array':
      return Array.from({ length: random.below(4) }, () => valueOf(schema.items, inside));
    default: {
      const of = Object.entries(schema.properties ?? {}).filter(
        ([name]) => (schema.required ?? []).includes(name) || random.below(2) === 1,
      );
      const object = Object.fromEntries(of.map(([name, property]) => [name, valueOf(property, inside)]));
      if (typeof schema.additionalProperties === 'object')
        object[one(['y', 'id', 'x', 'k', 'seed', 'depth'])] = valueOf(schema.additionalProperties, inside);
      return object;
    }
  }
}

/** What the routes are about: each kind of thing is there once. */
async function idsOf(address, at) {
  const student = await joined(address, at, 'student', 1);
  const { body: submission } = await student.upload(
    `${at.path}/submissions?wait=60`,
    'mine.csv',
    fileOf(at.identifiers, 1),
    { 'idempotency-key': 'mine' },
  );
  const { body: people } = await at.instructor.call('GET', `${at.course}/people`);
  const { body: folds } = await at.instructor.call('POST', `${at.dataSet}/fold-sets`, {
    plan: { kind: 'draw', values: { k: 3, stratify: 'y', group: '', repeats: 1, seed: 5 } },
    splitId: at.splitId,
  });
  const { body: trial } = await at.instructor.call('POST', `${at.dataSet}/trials`, {
    foldSetId: folds.id,
    plan: {
      model: { kind: 'tree', values: {} },
      features: ['x'],
      vary: [],
      metric: 'accuracy',
      choose: 'simplest',
      weight: null,
      seed: 1,
    },
  });
  const last = (path) => path.split('/').at(-1);
  return {
    course: last(at.course),
    exercise: last(at.path),
    dataSet: last(at.dataSet),
    split: at.splitId,
    foldSet: folds.id,
    trial: trial.id,
    submission: submission.id,
    person: people.find(({ role }) => role === 'student').id,
    question: 'q1',
  };
}

/** @returns how many inputs were tried, and those that were answered with 500 or above, or not at all */
export async function inputRun(database, { bodies = 400 } = {}) {
  const document = JSON.parse(readFileSync(join(ROOT, 'docs/api/openapi.json'), 'utf8'));
  const { schemas } = document.components;
  const server = await startProcess(database, 'all');
  const at = await releasedExercise(server.address, 'inputs', 200);
  const ids = await idsOf(server.address, at);
  const routes = Object.entries(document.paths)
    .flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({
        path,
        method: method.toUpperCase(),
        operation,
      })),
    )
    .filter(({ method, path }) => !ENDS.has(`${method} ${path}`))
    // Those that delete come last, so that what is tried first is still there for the rest.
    .sort((a, b) => Number(a.method === 'DELETE') - Number(b.method === 'DELETE'));

  const found = { routes: routes.length, tried: 0, signedOut: 0, taken: 0, failed: [] };
  const attempt = async (method, address, body) => {
    found.tried++;
    const ask = () =>
      at.instructor.status(method, address, body).catch((error) => `no answer (${error.message})`);
    let status = await ask();
    // The database was too slow to be reached on a loaded machine: the server asks to try again, as a page would.
    for (let again = 0; status === 503 && again < 3; again++) {
      await setTimeout(1000);
      status = await ask();
    }
    if (status === 401) found.signedOut++;
    if (typeof status === 'number' && status < 300) found.taken++;
    if (typeof status !== 'number' || status >= 500)
      found.failed.push(`${method} ${address.slice(0, 120)} ${String(body).slice(0, 300)}: ${status}`);
  };
  const random = seededRandom(SEED);
  for (const { path, method, operation } of routes) {
    const having = (id) => path.replace('/api/v1', '').replace(/\{(\w+)\}/g, (_, name) => id(name));
    const own = having((name) => ids[name] ?? NOBODY);
    const query = operation.parameters.filter((one) => one.in === 'query').map(({ name }) => name);
    for (const odd of IN_ADDRESSES) {
      if (path.includes('{'))
        await attempt(
          method,
          having(() => odd),
          method === 'GET' || method === 'DELETE' ? undefined : '{}',
        );
      if (method === 'GET')
        await attempt(
          method,
          `${own}?${[...query, 'before', 'rows'].map((name) => `${name}=${odd}`).join('&')}`,
        );
    }
    const content = operation.requestBody?.content ?? {};
    if (content['application/json']) {
      const { schema } = content['application/json'];
      const fields = Object.keys(schemas[schema?.$ref?.split('/').at(-1)]?.properties ?? {});
      for (const value of HOSTILE) {
        await attempt(method, own, JSON.stringify(value));
        await attempt(method, own, JSON.stringify(Object.fromEntries(fields.map((field) => [field, value]))));
      }
      for (let i = 0; i < bodies; i++)
        await attempt(
          method,
          own,
          JSON.stringify(valueOf(schema, { schemas, random, oddness: [0, 0.03, 0.15][i % 3] })) ?? 'null',
        );
    }
    if (content['multipart/form-data'])
      for (const fields of ['[[', JSON.stringify(deep(500)), '{"a":"\\ud800"}', '{"__proto__":1}']) {
        const form = new FormData();
        form.set('file', new Blob(['\u0000\ud800,\n']), 'a\u0000.csv');
        form.set('fields', fields);
        await attempt(method, own, form);
      }
  }
  await server.kill('SIGTERM');
  return found;
}
