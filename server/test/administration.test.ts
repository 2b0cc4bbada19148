import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { firstAdministratorLink } from '../src/administration/first-administrator.js';
import { readConfig } from '../src/platform/config/config.js';
import type { Schemas } from './world/schemas.js';
import { administratorOf, fileFor, joinedStudent, releasedExercise, truthOf } from './world/class.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { PASSWORD, Visitor } from './world/visitor.js';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

const setMakers = (who: string) =>
  asOwner(`UPDATE identity.setting SET value = $1 WHERE name = 'course-makers'`, [who]);
const makeCourse = (by: Visitor) =>
  by.call<{ id: string; code?: string }>('POST', '/courses', { name: 'Own', timeZone: 'UTC' });
const idOf = async (email: string) =>
  (await asOwner<{ id: string }>('SELECT id FROM identity.person WHERE email = $1', [email]))[0]?.id ?? '';

describe('the first administrator', () => {
  it('is made once, by the link that the start prints, where there is none', async () => {
    await asOwner('UPDATE identity.person SET is_administrator = false');
    const client = new pg.Client({ connectionString: readConfig().ownerUrl });
    await client.connect();
    const link = async () =>
      firstAdministratorLink(async (text, values) => (await client.query<object>(text, values)).rows);
    const [first, second] = [await link(), await link()];
    const route = (path: string | null) => (path ?? '').replace('/administrator/', '/administrator-links/');
    const visitor = await new Visitor(world.address).signUp('Olive Owner');
    expect((await new Visitor(world.address).call('POST', route(first))).status).toBe(401);
    expect((await visitor.call('POST', `${route(first)}x`)).status).toBe(404);
    expect((await visitor.call('POST', route(first))).status).toBe(204);
    expect((await visitor.call<Schemas['SessionInfo']>('GET', '/session')).body.administers).toBe(true);
    const late = await new Visitor(world.address).signUp('Lars Late');
    expect((await late.call('POST', route(second))).status).toBe(404);
    expect(await link()).toBeNull();
    await client.end();
  });
});

describe('courses', () => {
  it('are made by those whom the administrator allows, until everybody may', async () => {
    const admin = await administratorOf(world);
    const visitor = await new Visitor(world.address).signUp('Ines Wishing');
    await setMakers('invited');
    expect((await makeCourse(visitor)).body.code).toBe('may-not-make-courses');
    const { body: people } = await admin.call<Schemas['AdministeredPerson'][]>(
      'GET',
      '/administration/people?search=wishing',
    );
    expect(people.map(({ name }) => name)).toEqual(['Ines Wishing']);
    expect(
      (await admin.call('PUT', `/administration/people/${people[0]?.id ?? ''}`, { makesCourses: true }))
        .status,
    ).toBe(204);
    expect((await makeCourse(visitor)).status).toBe(201);
    expect((await visitor.call('GET', '/account-events')).text).toContain('allowed you to make courses');
    const other = await new Visitor(world.address).signUp('Una Unknown');
    expect((await makeCourse(other)).status).toBe(403);
    expect((await admin.call('PUT', '/administration/course-makers', { who: 'anyone' })).status).toBe(204);
    expect((await makeCourse(other)).status).toBe(201);
  });

  it('are deleted with all that is in them, by their instructor who types the name, and that is recorded', async () => {
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at);
    await student.upload(`${at.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    await at.instructor.call('POST', `${at.path}/return`);
    expect((await at.instructor.call('DELETE', at.course, { name: 'Another' })).body.code).toBe('other-name');
    expect((await student.call('DELETE', at.course, { name: 'Test course' })).status).toBe(404);
    expect((await at.instructor.call('DELETE', at.course, { name: 'Test course' })).status).toBe(204);
    expect((await at.instructor.call('GET', at.course)).status).toBe(404);
    const id = at.course.split('/').at(-1);
    for (const table of ['data_set', 'exercise', 'membership', 'audit_event'])
      expect(await asOwner(`SELECT 1 FROM ${table} WHERE course_id = $1`, [id])).toEqual([]);
    expect(await asOwner('SELECT 1 FROM submission WHERE exercise_id = $1', [at.exerciseId])).toEqual([]);
    const [logged] = await asOwner<{ text: string }>(
      'SELECT text FROM identity.server_event ORDER BY id DESC LIMIT 1',
    );
    expect(logged?.text).toBe(
      'deleted the course “Test course” with 2 members, 1 exercises and 1 submissions',
    );
  });

  it('are deleted by the administrator too', async () => {
    const admin = await administratorOf(world);
    const at = await releasedExercise(world);
    const id = at.course.split('/').at(-1) ?? '';
    const { text } = await admin.call('GET', '/administration/courses');
    expect(text).toContain(id);
    expect((await admin.call('DELETE', `/administration/courses/${id}`)).status).toBe(204);
    expect((await at.instructor.call('GET', at.course)).status).toBe(404);
  });
});

describe('people', () => {
  it('are deleted with what they handed in; what they did as staff stays, under no name', async () => {
    const admin = await administratorOf(world);
    const at = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, at, 'Gone Girl');
    await student.upload(`${at.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    const id = await idOf(student.email);
    expect((await admin.call('DELETE', `/administration/people/${id}`)).status).toBe(204);
    expect((await student.call('GET', '/tokens')).status).toBe(401);
    expect(
      (await student.call('POST', '/session', { email: student.email, password: PASSWORD })).status,
    ).toBe(401);
    expect(await asOwner('SELECT 1 FROM submission WHERE person_id = $1', [id])).toEqual([]);
    const [row] = await asOwner<{ name: string; email: string }>(
      'SELECT name, email FROM identity.person WHERE id = $1',
      [id],
    );
    expect(row?.name).toBe('a deleted person');
    expect(row?.email).not.toContain(student.email);
    expect((await admin.call('DELETE', `/administration/people/${id}`)).status).toBe(404);
  });

  it('who teach a course alone are not deleted, nor are administrators', async () => {
    const admin = await administratorOf(world);
    const at = await releasedExercise(world);
    const remove = async (email: string) =>
      admin.call('DELETE', `/administration/people/${await idOf(email)}`);
    expect((await remove(at.instructor.email)).body.code).toBe('teaches-alone');
    expect((await remove(admin.email)).body.code).toBe('is-administrator');
  });

  it('get a link for a new password, which every course of theirs sees, and no administrator does', async () => {
    const admin = await administratorOf(world);
    const at = await releasedExercise(world);
    const { student } = await joinedStudent(world, at, 'Liv Locked');
    const ask = async (email: string) =>
      admin.call<{ path: string }>('POST', `/administration/people/${await idOf(email)}/password-link`);
    const { body } = await ask(student.email);
    const path = body.path.replace('/password/', '/password-links/');
    expect((await new Visitor(world.address).call('POST', path, { password: PASSWORD })).status).toBe(204);
    expect((await at.instructor.call('GET', `${at.course}/audit`)).text).toContain('Olive Administrator');
    expect((await ask(admin.email)).status).toBe(409);
  });
});
