import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World, until } from './world/world.js';
import { fileFor, joinedStudent, receiptsOf, releasedExercise, truthOf } from './world/class.js';
import { PASSWORD, Visitor } from './world/visitor.js';

let world: World;

let at: Awaited<ReturnType<typeof releasedExercise>>;

beforeAll(async () => {
  world = await startWorld();
  at = await releasedExercise(world, { attempts: 20 });
});

afterAll(() => world.stop());

describe('passwords', () => {
  it('are kept as argon2id with 19 MiB and two passes', async () => {
    const visitor = await new Visitor(world.address).signUp('Hana Hashed');
    const [row] = await asOwner<{ password_hash: string }>(
      'SELECT password_hash FROM identity.person WHERE email = $1',
      [visitor.email],
    );
    expect(row?.password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });

  it.each([
    ['elevenchars', 400, 'A password has at least 12 characters.'],
    ['qwerty123456', 422, 'among those that are tried first'],
    ['Password12345!', 422, 'among those that are tried first'],
    ['dragondragon', 422, 'among those that are tried first'],
    ['abababacabababac', 422, 'a simple pattern'],
    ['123456789012345', 422, 'a simple pattern'],
    ['petra-weak-2026', 422, 'little more than your name'],
  ])('such as %s are refused', async (password, status, words) => {
    const email = `petra-weak-${randomUUID()}@test.example`;
    const reply = await new Visitor(world.address).call('POST', '/people', {
      email: password.startsWith('petra') ? 'petra-weak@test.example' : email,
      name: 'Petra Weak',
      password,
    });
    expect(reply.status).toBe(status);
    expect(reply.body.title).toContain(words);
  });

  it('are changed by somebody who knows the old one, which ends every other session', async () => {
    const here = await new Visitor(world.address).signUp('Cato Changing');
    const there = new Visitor(world.address);
    await there.call('POST', '/session', { email: here.email, password: PASSWORD });
    const change = (old: string) => here.call('PUT', '/password', { old, password: 'quite another one' });
    expect((await change('not this one at all')).status).toBe(401);
    expect((await change(PASSWORD)).status).toBe(204);
    expect((await here.call('GET', '/tokens')).status).toBe(200);
    expect((await there.call('GET', '/tokens')).status).toBe(401);
    const { text } = await here.call('GET', '/account-events');
    expect(text).toContain('You changed your password');
  });

  it('a session ends everywhere when its person says so', async () => {
    const here = await new Visitor(world.address).signUp('Eve Everywhere');
    const there = new Visitor(world.address);
    await there.call('POST', '/session', { email: here.email, password: PASSWORD });
    expect((await there.call('GET', '/tokens')).status).toBe(200);
    expect((await here.call('DELETE', '/sessions')).status).toBe(204);
    expect((await there.call('GET', '/tokens')).status).toBe(401);
  });
});

describe('join codes', () => {
  it('stop working when they are renewed or have expired', async () => {
    const own = await releasedExercise(world);
    const join = (code: string) =>
      new Visitor(world.address)
        .signUp('Jo Joining')
        .then((visitor) => visitor.call('POST', '/courses/join', { code }));
    expect((await own.instructor.call('POST', `${own.course}/join-code`)).status).toBe(204);
    expect(await join(own.joinCode)).toMatchObject({ status: 404, body: { code: 'no-such-code' } });
    const { body } = await own.instructor.call<Schemas['CourseDetail']>('GET', own.course);
    // As somebody types it: in small letters, a blank for the hyphen.
    expect((await join(` ${(body.joinCode ?? '').toLowerCase().replace('-', ' ')}`)).status).toBe(200);
    await asOwner(`UPDATE course SET join_code_expires_at = now() - interval '1 minute' WHERE id = $1`, [
      body.id,
    ]);
    expect((await join(body.joinCode ?? '')).status).toBe(404);
  });

  it('are not guessed by one person without end', async () => {
    const visitor = await new Visitor(world.address).signUp('Rob Rattling');
    for (let i = 0; i < 20; i++) await visitor.call('POST', '/courses/join', { code: `AAAAA-${i}` });
    expect((await visitor.call('POST', '/courses/join', { code: at.joinCode })).status).toBe(429);
  });
});

describe('the trail', () => {
  it('tells the instructor who did what, the latest first', async () => {
    const own = await releasedExercise(world);
    const { student, identifiers } = await joinedStudent(world, own);
    await student.upload(`${own.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    await own.instructor.call('POST', `${own.path}/return`);
    const { body } = await own.instructor.call<Schemas['AuditPage']>('GET', `${own.course}/audit`);
    expect(body.events.map(({ person, text, subject }) => `${person} ${text} ${subject}`)).toEqual([
      'Ada Instructor returned Predict y',
      'Sam Student joined ',
      'Ada Instructor released Predict y',
      'Ada Instructor began the release of Predict y',
      'Ada Instructor saved a split of Cases',
      'Ada Instructor marked the columns of Cases',
      'Ada Instructor imported the table cases.csv',
      'Ada Instructor made the course Test course',
    ]);
    expect(body.next).toBeNull();
  });

  it('tells a release that was refused from one that was made', async () => {
    const own = await releasedExercise(world);
    const [question] = own.settings.questions;
    const low = { marks: 10, nothing: 0.1, most: 0.2, mostMarks: 8, all: 0.3, doubt: false };
    const other = { ...own.settings, title: 'Again', questions: [{ ...question, scheme: low }] };
    const { body: draft } = await own.instructor.call<{ id: string }>(
      'POST',
      `${own.course}/exercises`,
      other,
    );
    const path = `${own.course}/exercises/${draft.id}`;
    await own.instructor.call('POST', `${path}/release`, { reason: 'Made up.' });
    const { body: after } = await until(
      () => own.instructor.call<Schemas['ExerciseDetail']>('GET', path),
      ({ body: now }) => now.state !== 'packing',
    );
    expect(after.problem?.code).toBe('marks');
    const { body } = await own.instructor.call<Schemas['AuditPage']>('GET', `${own.course}/audit`);
    expect(body.events.slice(0, 2)).toEqual([
      expect.objectContaining({
        text: 'was refused the release of',
        subject: 'Again',
        detail: { problem: after.problem?.message },
      }),
      expect.objectContaining({ text: 'began the release of', subject: 'Again' }),
    ]);
  });

  it('cannot be changed by any connection of the program', async () => {
    const rights = await asOwner<{ grantee: string; privilege_type: string }>(
      `SELECT grantee, privilege_type FROM information_schema.role_table_grants
        WHERE table_name = 'audit_event' AND grantee LIKE 'sieve\\_%' AND grantee <> 'sieve_owner'`,
    );
    expect(new Set(rights.map((right) => right.privilege_type))).toEqual(new Set(['INSERT', 'SELECT']));
    expect(rights.map((right) => right.grantee)).not.toContain('sieve_student');
  });
});

describe('uploads', () => {
  it('of one person are limited, files that are not taken included', async () => {
    const { student } = await joinedStudent(world, at, 'Flo Flooding');
    const statuses = new Set<number>();
    for (let i = 0; i < 125; i++) {
      statuses.add((await student.upload(`${at.path}/submissions`, 'x.csv', 'no table')).status);
    }
    expect(statuses).toContain(429);
    expect((await receiptsOf(student, at.path)).body.length).toBeLessThanOrEqual(120);
  });
});
