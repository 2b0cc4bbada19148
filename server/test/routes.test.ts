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
  startWorld,
  truthOf,
  Visitor,
  type World,
} from './world/world.js';

type Respondent =
  | 'nobody'
  | 'student'
  | 'student elsewhere'
  | 'assistant'
  | 'instructor'
  | 'instructor elsewhere'
  | 'administrator';

const EVERYBODY: Respondent[] = [
  'nobody',
  'student',
  'student elsewhere',
  'assistant',
  'instructor',
  'instructor elsewhere',
  'administrator',
];
const PERSONS = EVERYBODY.filter((who) => who !== 'nobody');
const MEMBERS: Respondent[] = ['student', 'assistant', 'instructor'];
const STAFF: Respondent[] = ['assistant', 'instructor'];
const INSTRUCTOR: Respondent[] = ['instructor'];
const STUDENT: Respondent[] = ['student'];
const ADMINISTRATOR: Respondent[] = ['administrator'];

/** Who may call each route: written down here apart from the code, so that neither changes alone. */
const MATRIX: Record<string, Respondent[]> = {
  'GET /session': EVERYBODY,
  'POST /session': EVERYBODY,
  'DELETE /session': EVERYBODY,
  'DELETE /sessions': PERSONS,
  'POST /people': EVERYBODY,
  'GET /password-links/{secret}': EVERYBODY,
  'POST /password-links/{secret}': EVERYBODY,
  'PUT /password': PERSONS,
  'GET /account-events': PERSONS,
  'GET /invitations/{secret}': EVERYBODY,
  'POST /invitations/{secret}/accept': PERSONS,
  'POST /invitations/{secret}/claim': EVERYBODY,
  'GET /own-invitations': PERSONS,
  'POST /own-invitations/{invitation}': PERSONS,
  'DELETE /own-invitations/{invitation}': PERSONS,
  'POST /administrator-links/{secret}': PERSONS,
  'GET /administration/people': ADMINISTRATOR,
  'PUT /administration/people/{person}': ADMINISTRATOR,
  'POST /administration/people/{person}/password-link': ADMINISTRATOR,
  'DELETE /administration/people/{person}': ADMINISTRATOR,
  'GET /administration/courses': ADMINISTRATOR,
  'DELETE /administration/courses/{id}': ADMINISTRATOR,
  'GET /administration/log': ADMINISTRATOR,
  'GET /administration/course-makers': ADMINISTRATOR,
  'PUT /administration/course-makers': ADMINISTRATOR,
  'GET /tokens': PERSONS,
  'POST /tokens': PERSONS,
  'DELETE /tokens/{token}': PERSONS,
  'POST /courses': PERSONS,
  'POST /courses/join': PERSONS,
  'GET /courses/{course}': MEMBERS,
  'GET /courses/{course}/events': MEMBERS,
  'DELETE /courses/{course}': INSTRUCTOR,
  'GET /courses/{course}/invitations': INSTRUCTOR,
  'POST /courses/{course}/invitations': INSTRUCTOR,
  'POST /courses/{course}/invitations/{invitation}/link': INSTRUCTOR,
  'DELETE /courses/{course}/invitations/{invitation}': INSTRUCTOR,
  'POST /courses/{course}/join-code': INSTRUCTOR,
  'GET /courses/{course}/audit': INSTRUCTOR,
  'GET /courses/{course}/people': INSTRUCTOR,
  'PUT /courses/{course}/people/{person}': INSTRUCTOR,
  'DELETE /courses/{course}/people/{person}': INSTRUCTOR,
  'POST /courses/{course}/people/{person}/password-link': INSTRUCTOR,
  'POST /courses/{course}/roster/preview': INSTRUCTOR,
  'POST /courses/{course}/roster': INSTRUCTOR,
  'GET /courses/{course}/data-sets': INSTRUCTOR,
  'POST /courses/{course}/data-sets': INSTRUCTOR,
  'POST /courses/{course}/data-sets/imports/{import}': INSTRUCTOR,
  'DELETE /courses/{course}/data-sets/imports/{import}': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}': INSTRUCTOR,
  'PATCH /courses/{course}/data-sets/{dataSet}': INSTRUCTOR,
  'DELETE /courses/{course}/data-sets/{dataSet}': INSTRUCTOR,
  'PUT /courses/{course}/data-sets/{dataSet}/current': INSTRUCTOR,
  'DELETE /courses/{course}/data-sets/{dataSet}/versions/{version}': INSTRUCTOR,
  'PATCH /courses/{course}/data-sets/{dataSet}/splits/{split}': INSTRUCTOR,
  'DELETE /courses/{course}/data-sets/{dataSet}/splits/{split}': INSTRUCTOR,
  'PATCH /courses/{course}/data-sets/{dataSet}/fold-sets/{foldSet}': INSTRUCTOR,
  'DELETE /courses/{course}/data-sets/{dataSet}/fold-sets/{foldSet}': INSTRUCTOR,
  'PATCH /courses/{course}/data-sets/{dataSet}/trials/{trial}': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/rows': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/suggestion': INSTRUCTOR,
  'PUT /courses/{course}/data-sets/{dataSet}/roles': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/findings': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/by-value': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/pair': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/correlations': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/table': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/raw': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/prepare-preview': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/versions': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/split-preview': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/split-record': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/splits': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/fold-preview': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/fold-sets': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/fold-sets/{foldSet}': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/trials': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/trials': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/trials/{trial}': INSTRUCTOR,
  'DELETE /courses/{course}/data-sets/{dataSet}/trials/{trial}': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/trials/{trial}/evidence': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/trials/{trial}/held-out': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/trials/{trial}/against/{other}': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/trials/{trial}/case': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/trials/{trial}/arms': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/trials/{trial}/starter/{form}': INSTRUCTOR,
  'GET /courses/{course}/data-sets/{dataSet}/trials/{trial}/model/{format}': INSTRUCTOR,
  'POST /courses/{course}/data-sets/{dataSet}/trials/{trial}/predictions': INSTRUCTOR,
  'PUT /courses/{course}/data-sets/{dataSet}/trials/{trial}/reference': INSTRUCTOR,
  'GET /courses/{course}/splits/{split}/references': INSTRUCTOR,
  'PATCH /courses/{course}/data-sets/{dataSet}/descriptions': INSTRUCTOR,
  'GET /courses/{course}/exercises': MEMBERS,
  'POST /courses/{course}/exercises': INSTRUCTOR,
  'GET /courses/{course}/exercises/{exercise}': MEMBERS,
  'PUT /courses/{course}/exercises/{exercise}': INSTRUCTOR,
  'DELETE /courses/{course}/exercises/{exercise}': INSTRUCTOR,
  'GET /courses/{course}/exercises/{exercise}/file': INSTRUCTOR,
  'GET /courses/{course}/exercises/{exercise}/keys': INSTRUCTOR,
  'GET /courses/{course}/exercises/{exercise}/preview': INSTRUCTOR,
  'POST /courses/{course}/exercises/{exercise}/tries/{question}': INSTRUCTOR,
  'POST /courses/{course}/exercises/{exercise}/release': INSTRUCTOR,
  'POST /courses/{course}/exercises/{exercise}/withdraw': INSTRUCTOR,
  'PUT /courses/{course}/exercises/{exercise}/amendment': INSTRUCTOR,
  'PUT /courses/{course}/exercises/{exercise}/reopening': INSTRUCTOR,
  'GET /courses/{course}/exercises/{exercise}/correction': INSTRUCTOR,
  'PUT /courses/{course}/exercises/{exercise}/correction': INSTRUCTOR,
  'POST /courses/{course}/exercises/{exercise}/correction/apply': INSTRUCTOR,
  'DELETE /courses/{course}/exercises/{exercise}/correction': INSTRUCTOR,
  'PUT /courses/{course}/exercises/{exercise}/deadlines/{person}': INSTRUCTOR,
  'POST /courses/{course}/exercises/{exercise}/return': INSTRUCTOR,
  'GET /courses/{course}/exercises/{exercise}/pack': MEMBERS,
  'GET /courses/{course}/exercises/{exercise}/questions/{question}/rules': MEMBERS,
  'POST /courses/{course}/exercises/{exercise}/submissions': STUDENT,
  'GET /courses/{course}/exercises/{exercise}/receipts': STUDENT,
  'GET /courses/{course}/exercises/{exercise}/receipts/{submission}': STUDENT,
  'GET /courses/{course}/exercises/{exercise}/receipts/{submission}/file': STUDENT,
  'GET /courses/{course}/exercises/{exercise}/class': STAFF,
  'PUT /courses/{course}/exercises/{exercise}/submissions/{submission}/marks': STAFF,
  'GET /courses/{course}/exercises/{exercise}/wear/{question}': STAFF,
  'GET /courses/{course}/exercises/{exercise}/submissions/{submission}': STAFF,
  'GET /courses/{course}/exercises/{exercise}/submissions/{submission}/file': STAFF,
  'GET /courses/{course}/jobs': STAFF,
  'DELETE /courses/{course}/jobs/{job}': INSTRUCTOR,
  'GET /courses/{course}/gradebook': STAFF,
  'GET /courses/{course}/gradebook.csv': STAFF,
};

/** Routes that answer permitted callers with 404 here, since what the address names is made up. */
const MADE_UP = [
  '{secret}',
  '{invitation}',
  '{id}',
  '{token}',
  '{import}',
  '{job}',
  '{foldSet}',
  '{trial}',
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
