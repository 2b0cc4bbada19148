import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Controller, Get, Module } from '@nestjs/common';
import { DiscoveryModule, NestFactory } from '@nestjs/core';
import { openApiDocument } from '../src/openapi-document.js';
import { Declarations } from '../src/platform/access/declarations.js';
import type { Schemas } from './world/schemas.js';
import {
  administratorOf,
  checkedReceipts,
  fileFor,
  invitedMember,
  joinedStudent,
  releasedExercise,
  truthOf,
} from './world/class.js';
import { startWorld, type World } from './world/world.js';
import { Visitor } from './world/visitor.js';
import { EVERYBODY, MATRIX, type Respondent } from './world/route-matrix.js';

const MADE_UP = [
  '{secret}',
  '{invitation}',
  '{id}',
  '{token}',
  '{import}',
  '{job}',
  '{foldSet}',
  '{trial}',
  '{featureSet}',
  '{version}',
  '{split}',
];
const NOTHING = '00000000-0000-4000-8000-000000000000';

const document = await openApiDocument();
const routes = Object.entries(document.paths).flatMap(([path, methods]) =>
  Object.entries(methods as Record<string, { requestBody?: { content: object } }>).map(
    ([method, { requestBody }]) => ({
      name: `${method.toUpperCase()} ${path.replace('/api/v1', '')}`,
      method: method.toUpperCase(),
      path: path.replace('/api/v1', ''),
      takesFile: requestBody !== undefined && 'multipart/form-data' in requestBody.content,
    }),
  ),
);
/** Reading before writing before deleting, so that what is tried first is still there for the rest. */
const RANK: Record<string, number> = { GET: 0, PUT: 1, PATCH: 1, POST: 2, DELETE: 3 };
const ordered = [...routes].sort((a, b) => (RANK[a.method] ?? 0) - (RANK[b.method] ?? 0));

let world: World;
const people = new Map<Respondent, Visitor>();
const ids = new Map<string, string>();
let tried = 0;
let refused = 0;

beforeAll(async () => {
  world = await startWorld();
  const at = await releasedExercise(world);
  const elsewhere = await releasedExercise(world);
  const { student, identifiers } = await joinedStudent(world, at);
  const assistant = await invitedMember(world, at, 'assistant', 'Aki Assistant');
  await joinedStudent(world, at, 'Zora Spare');
  const { student: stranger } = await joinedStudent(world, elsewhere, 'Otto Other');
  await student.upload(`${at.path}/submissions`, 'mine.csv', fileFor(identifiers, truthOf));
  const [receipt] = await checkedReceipts(student, at.path);
  const { body: members } = await at.instructor.call<Schemas['Member'][]>('GET', `${at.course}/people`);
  const idOf = (name: string) => members.find((member) => member.name === name)?.id ?? '';
  people.set('nobody', new Visitor(world.address));
  people.set('student', student);
  people.set('student elsewhere', stranger);
  people.set('assistant', assistant);
  people.set('instructor', at.instructor);
  people.set('instructor elsewhere', elsewhere.instructor);
  people.set('administrator', await administratorOf(world));
  ids.set('course', at.course.split('/').at(-1) ?? '');
  ids.set('dataSet', at.dataSet.split('/').at(-1) ?? '');
  ids.set('exercise', at.exerciseId);
  ids.set('submission', receipt?.id ?? '');
  ids.set('person', idOf('Zora Spare'));
  ids.set('form', 'python');
  ids.set('question', 'q1');
});
afterAll(() => world.stop());

async function statusOf(
  { method, path, takesFile }: (typeof routes)[number],
  visitor: Visitor,
): Promise<number> {
  const address = path.replace(/\{(\w+)\}/g, (_, name: string) => ids.get(name) ?? NOTHING);
  const form = new FormData();
  form.set('file', new Blob(['name,address\nNew Person,new@test.example\n']), 'file.csv');
  const body = method === 'GET' || method === 'DELETE' ? null : takesFile ? form : '{}';
  const response = await fetch(`${world.address}/api/v1${address}`, {
    method,
    headers: {
      cookie: visitor.cookie,
      ...(typeof body === 'string' ? { 'content-type': 'application/json' } : {}),
    },
    body,
  });
  // A stream of events would never end.
  await response.body?.cancel();
  return response.status;
}

it('every route of the OpenAPI document has a row, and every row a route', () => {
  expect(Object.keys(MATRIX).sort()).toEqual(routes.map((route) => route.name).sort());
});

describe('who may call', () => {
  it.each(ordered.map((route) => [route.name, route] as const))('%s', async (name, route) => {
    const allowed = MATRIX[name] ?? [];
    for (const who of EVERYBODY) {
      // Signing out would end what the next routes need.
      const self = route.path.startsWith('/session') && route.method === 'DELETE' && who !== 'nobody';
      const visitor = self ? await new Visitor(world.address).signUp('Tilda Transient') : people.get(who);
      const status = await statusOf(route, visitor ?? new Visitor(world.address));
      tried++;
      const said = `${who}: ${status}`;
      if (!allowed.includes(who)) {
        refused++;
        expect(said).toBe(`${who}: ${who === 'nobody' ? 401 : 404}`);
      } else if (MADE_UP.some((part) => route.path.includes(part))) {
        expect(said).toMatch(/: (404|204|400)$/);
      } else {
        expect(said).not.toMatch(/: (401|403|404|5\d\d)$/);
      }
    }
  });

  it('was tried on every route by everybody', () => {
    expect(tried).toBe(routes.length * EVERYBODY.length);
    expect(refused).toBeGreaterThan(100);
    console.info(`${routes.length} routes × ${EVERYBODY.length} roles: ${tried} tried, ${refused} refused`);
  });
});

it('the reference of the API is a page beside the guides', async () => {
  const { status, headers } = await fetch(`${world.address}/api/docs`, { redirect: 'manual' });
  expect([status, headers.get('location')]).toEqual([302, '/help/api']);
});

describe('a route that does not say who may call it', () => {
  it('stops the start', async () => {
    class Careless {
      all() {
        return [];
      }
    }
    Controller('careless')(Careless);
    const descriptor = Object.getOwnPropertyDescriptor(Careless.prototype, 'all');
    Get()(Careless.prototype, 'all', descriptor ?? {});
    class Application {
      readonly isEmpty = false;
    }
    Module({ imports: [DiscoveryModule], controllers: [Careless], providers: [Declarations] })(Application);
    const start = async () => {
      const app = await NestFactory.create(Application, { logger: false, abortOnError: false });
      await app.init();
    };
    await expect(start()).rejects.toThrow('No one may call Careless.all: say who, with @Route.');
  });
});
