import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { fileFor, invitedMember, joinedStudent, releasedExercise, truthOf } from './world/class.js';
import { PASSWORD, Visitor } from './world/visitor.js';

let world: World;
let at: Awaited<ReturnType<typeof releasedExercise>>;
beforeAll(async () => {
  world = await startWorld();
  at = await releasedExercise(world, { attempts: 20 });
});
afterAll(() => world.stop());

const address = () => `${randomUUID()}@test.example`;

const membersOf = async (of = at) =>
  (await of.instructor.call<Schemas['Member'][]>('GET', `${of.course}/people`)).body;

const idOf = async (name: string, of = at) => (await membersOf(of)).find((m) => m.name === name)?.id ?? '';

const routeOf = (path: string) =>
  path.replace('/invitation/', '/invitations/').replace('/password/', '/password-links/');

const invite = async (email: string, role: string, of = at) =>
  (
    await of.instructor.call<Schemas['MadeLink']>('POST', `${of.course}/invitations`, {
      email,
      name: 'Iva Invited',
      role,
    })
  ).body;

describe('an invitation', () => {
  it('to an unknown address makes an account that only its link claims, once', async () => {
    const email = address();
    const { path } = await invite(email, 'student');
    const visitor = new Visitor(world.address);
    expect((await visitor.call('POST', '/session', { email, password: '' })).status).toBe(401);
    expect(
      (await visitor.call('POST', '/people', { email, name: 'Thief', password: PASSWORD })).body.code,
    ).toBe('address-taken');
    expect((await visitor.call('POST', `${routeOf(path)}/claim`, { password: 'short' })).status).toBe(400);
    expect((await visitor.call('POST', `${routeOf(path)}/claim`, { password: PASSWORD })).status).toBe(204);
    expect((await visitor.call('GET', at.course)).status).toBe(200);
    expect((await new Visitor(world.address).call('GET', routeOf(path))).status).toBe(404);
    expect((await membersOf()).find((member) => member.email === email)).toMatchObject({
      role: 'student',
      joinedBy: 'invitation',
    });
  });

  it('is seen by its student when signed in, and accepted or declined', async () => {
    const visitor = await new Visitor(world.address).signUp('Dora Deciding');
    await invite(visitor.email, 'student');
    const [first] = (await visitor.call<Schemas['OwnInvitation'][]>('GET', '/own-invitations')).body;
    expect(first).toMatchObject({ course: 'Test course', role: 'student', invitedBy: 'Ada Instructor' });
    expect((await visitor.call('DELETE', `/own-invitations/${first?.id ?? ''}`)).status).toBe(204);
    expect((await visitor.call('GET', at.course)).status).toBe(404);
    await invite(visitor.email, 'student');
    const [second] = (await visitor.call<Schemas['OwnInvitation'][]>('GET', '/own-invitations')).body;
    // Nobody else's.
    const other = await new Visitor(world.address).signUp('Olaf Other');
    expect((await other.call('POST', `/own-invitations/${second?.id ?? ''}`)).status).toBe(404);
    expect((await visitor.call('POST', `/own-invitations/${second?.id ?? ''}`)).status).toBe(200);
    expect((await membersOf()).find(({ name }) => name === 'Dora Deciding')?.joinedBy).toBe('address');
  });

  it('makes an assistant of a student who accepts it by its link, and no more than once', async () => {
    const { student } = await joinedStudent(world, at, 'Ari Aspiring');
    const { path } = await invite(student.email, 'assistant');
    expect((await student.call('POST', `${routeOf(path)}/accept`)).status).toBe(200);
    expect((await membersOf()).find(({ name }) => name === 'Ari Aspiring')?.role).toBe('assistant');
    expect((await student.call('POST', `${routeOf(path)}/accept`)).status).toBe(404);
  });

  it('no longer works once it is revoked, renewed or too old', async () => {
    const email = address();
    const first = await invite(email, 'student');
    const [{ id } = { id: '' }] = (
      await at.instructor.call<Schemas['InvitationInfo'][]>('GET', `${at.course}/invitations`)
    ).body.filter((one) => one.email === email);
    const { body: second } = await at.instructor.call<Schemas['MadeLink']>(
      'POST',
      `${at.course}/invitations/${id}/link`,
    );
    const status = async (path: string) =>
      (await new Visitor(world.address).call('GET', routeOf(path))).status;
    expect(await status(first.path)).toBe(404);
    expect(await status(second.path)).toBe(200);
    await asOwner(`UPDATE identity.invitation SET expires_at = now() WHERE email = $1`, [email]);
    expect(await status(second.path)).toBe(404);
    const third = await invite(email, 'student');
    const [again] = await asOwner<{ id: string }>('SELECT id FROM identity.invitation WHERE email = $1', [
      email,
    ]);
    expect((await at.instructor.call('DELETE', `${at.course}/invitations/${again?.id ?? ''}`)).status).toBe(
      204,
    );
    expect(await status(third.path)).toBe(404);
  });
});

describe('a student who was removed', () => {
  it('comes back by an invitation, and by no code', async () => {
    const { student } = await joinedStudent(world, at, 'Rex Removed');
    const id = await idOf('Rex Removed');
    expect((await at.instructor.call('DELETE', `${at.course}/people/${id}`)).status).toBe(204);
    expect(await student.call('POST', '/courses/join', { code: at.joinCode })).toMatchObject({
      status: 403,
      body: { code: 'was-removed' },
    });
    await invite(student.email, 'student');
    const [own] = (await student.call<Schemas['OwnInvitation'][]>('GET', '/own-invitations')).body;
    expect((await student.call('POST', `/own-invitations/${own?.id ?? ''}`)).status).toBe(200);
    expect((await student.call('GET', at.course)).status).toBe(200);
  });

  it('takes the work along where the instructor says so', async () => {
    const own = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, own, 'Wim Working');
    await student.upload(`${own.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    const id = await idOf('Wim Working', own);
    expect((await own.instructor.call('DELETE', `${own.course}/people/${id}?work=delete`)).status).toBe(204);
    const [left] = await asOwner<{ n: number }>(
      'SELECT count(*)::int AS n FROM submission WHERE person_id = $1',
      [id],
    );
    expect(left?.n).toBe(0);
  });
});

describe('a link for a new password', () => {
  it('is made for somebody in no other course, works once, ends every session, and is seen by person and course', async () => {
    const { student } = await joinedStudent(world, at, 'Lou Linked');
    await student.call('POST', '/tokens', { name: 'laptop', scopes: ['read'], days: 7 });
    const { body: link } = await at.instructor.call<Schemas['MadeLink']>(
      'POST',
      `${at.course}/people/${await idOf('Lou Linked')}/password-link`,
    );
    const path = routeOf(link.path);
    const visitor = new Visitor(world.address);
    expect((await visitor.call('GET', path)).body).toEqual({ name: 'Lou Linked', email: student.email });
    expect((await visitor.call('POST', path, { password: 'short' })).status).toBe(400);
    expect((await visitor.call('POST', path, { password: 'another ten letters' })).status).toBe(204);
    expect((await student.call('GET', '/tokens')).status).toBe(401);
    expect((await visitor.call<unknown[]>('GET', '/tokens')).body).toEqual([]);
    expect((await new Visitor(world.address).call('POST', path, { password: PASSWORD })).status).toBe(404);
    expect((await visitor.call('GET', '/account-events')).text).toContain('Ada Instructor made a link');
    const { text } = await at.instructor.call('GET', `${at.course}/audit`);
    expect(text).toContain('made a link by which a new password was set for');
  });

  it('does not work any more once its person has joined another course, nor after a day', async () => {
    const { student } = await joinedStudent(world, at, 'Nia Newly');
    const made = async () =>
      routeOf(
        (
          await at.instructor.call<Schemas['MadeLink']>(
            'POST',
            `${at.course}/people/${await idOf('Nia Newly')}/password-link`,
          )
        ).body.path,
      );
    const first = await made();
    await asOwner(`UPDATE identity.password_link SET expires_at = expires_at - interval '24 hours'`);
    expect((await new Visitor(world.address).call('GET', first)).status).toBe(404);
    const second = await made();
    const elsewhere = await releasedExercise(world);
    await student.call('POST', '/courses/join', { code: elsewhere.joinCode });
    expect((await new Visitor(world.address).call('POST', second, { password: PASSWORD })).status).toBe(404);
  });

  it('is not made for instructors, for people who may make courses, nor by an assistant', async () => {
    const assistant = await invitedMember(world, at, 'assistant', 'Aki Assistant');
    const { student: maker } = await joinedStudent(world, at, 'Mika Maker');
    await asOwner('UPDATE identity.person SET may_make_courses = true WHERE email = $1', [maker.email]);
    const ask = async (name: string, by = at.instructor) =>
      (await by.call('POST', `${at.course}/people/${await idOf(name)}/password-link`)).status;
    expect(await ask('Ada Instructor')).toBe(409);
    expect(await ask('Mika Maker')).toBe(409);
    expect(await ask('Aki Assistant', assistant)).toBe(404);
  });
});
