import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { Schemas } from './schemas.js';
import { releasedExercise, startWorld, type Visitor, type World } from './world.js';

interface Property {
  readonly type?: string;
}
interface Operation {
  readonly parameters: readonly { readonly name: string; readonly in: string }[];
  readonly requestBody?: {
    readonly content: Record<string, { readonly schema?: { readonly $ref?: string } }>;
  };
}
const document = JSON.parse(
  readFileSync(new URL('../../docs/api/openapi.json', import.meta.url), 'utf8'),
) as {
  readonly paths: Record<string, Record<string, Operation>>;
  readonly components: {
    readonly schemas: Record<string, { readonly properties?: Record<string, Property> }>;
  };
};

/** What would end the session or the account of who tries. */
const ENDS = new Set(['DELETE /api/v1/session', 'DELETE /api/v1/sessions']);
/** Those that delete come last, so that what is tried first is still there for the rest. */
const routes = Object.entries(document.paths)
  .flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), operation })),
  )
  .filter(({ method, path }) => !ENDS.has(`${method} ${path}`))
  .sort((a, b) => Number(a.method === 'DELETE') - Number(b.method === 'DELETE'));

const deep = (levels: number): unknown => JSON.parse(`${'['.repeat(levels)}${']'.repeat(levels)}`);

/** What no program sends, as JSON says it. */
const HOSTILE: readonly [string, unknown][] = [
  ['NUL', 'a\u0000b'],
  ['half a character', '\ud800'],
  ['depth', deep(2000)],
  ['a number beyond any integer', 1e300],
  ['a negative number', -1],
  ['a fraction', 0.5],
  ['nothing', null],
  ['a list', [[], {}, null]],
  ['an object', { toString: 1, constructor: null, length: -1 }],
  ['a long text', 'x'.repeat(100_000)],
  ['a number as text', '99999999999999999999999'],
];
/** The same in addresses. */
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

let world: World;
let instructor: Visitor;
let ids: Record<string, string>;
beforeAll(async () => {
  world = await startWorld();
  const at = await releasedExercise(world);
  instructor = at.instructor;
  const { body } = await at.instructor.call<Schemas['DataSetList']>('GET', `${at.course}/data-sets`);
  ids = {
    course: at.course.split('/').at(-1) ?? '',
    exercise: at.exerciseId,
    dataSet: body.dataSets[0]?.id ?? '',
  };
});
afterAll(() => world.stop());

async function statusOf(method: string, address: string, body: string | FormData | null): Promise<number> {
  const response = await fetch(`${world.address}${address}`, {
    method,
    headers: {
      cookie: instructor.cookie,
      ...(typeof body === 'string' ? { 'content-type': 'application/json' } : {}),
    },
    body,
  });
  // A stream of events would never end.
  await response.body?.cancel();
  return response.status;
}

/** Every field of a body at once, and each alone. */
function bodiesOf({ requestBody }: Operation, value: unknown): string[] {
  const schema = requestBody?.content['application/json']?.schema?.$ref?.split('/').at(-1) ?? '';
  const fields = Object.keys(document.components.schemas[schema]?.properties ?? {});
  return [value, Object.fromEntries(fields.map((field) => [field, value]))].map((one) => JSON.stringify(one));
}

it('no route answers 500 to what no program sends', async () => {
  const failed: string[] = [];
  let [tried, signedOut] = [0, 0];
  const attempt = async (said: string, method: string, address: string, body: string | FormData | null) => {
    tried++;
    const status = await statusOf(method, address, body);
    if (status === 401) signedOut++;
    if (status >= 500) failed.push(`${method} ${address.slice(0, 120)} ${said}: ${status}`);
  };
  for (const { path, method, operation } of routes) {
    const with_ = (id: (name: string) => string) => path.replace(/\{(\w+)\}/g, (_, name: string) => id(name));
    const own = with_((name) => ids[name] ?? '00000000-0000-4000-8000-000000000000');
    const query = operation.parameters.filter((one) => one.in === 'query').map(({ name }) => name);
    for (const hostile of IN_ADDRESSES) {
      if (path.includes('{'))
        await attempt(
          '',
          method,
          with_(() => hostile),
          method === 'GET' || method === 'DELETE' ? null : '{}',
        );
      if (method === 'GET') {
        const asked = [...query, 'before', 'rows'].map((name) => `${name}=${hostile}`).join('&');
        await attempt('', method, `${own}?${asked}`, null);
      }
    }
    if (operation.requestBody?.content['application/json'])
      for (const [said, value] of HOSTILE)
        for (const body of bodiesOf(operation, value)) await attempt(said, method, own, body);
    if (operation.requestBody?.content['multipart/form-data']) {
      const form = new FormData();
      form.set('file', new Blob(['\u0000\ud800,\n']), 'a\u0000.csv');
      form.set('fields', '[[');
      await attempt('a form', method, own, form);
    }
  }
  console.info(`${routes.length} routes: ${tried} inputs tried`);
  expect(failed).toEqual([]);
  // Signing in with such things is refused; all else was tried by somebody who is signed in.
  expect(signedOut).toBeLessThan(30);
});
