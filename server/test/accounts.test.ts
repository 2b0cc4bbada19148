import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Schemas } from './schemas.js';
import {
  asOwner,
  fileFor,
  joinedStudent,
  PASSWORD,
  receiptsOf,
  releasedExercise,
  startWorld,
  truthOf,
  Visitor,
  type World,
  usedBy,
} from './world.js';

let world: World;
let at: Awaited<ReturnType<typeof releasedExercise>>;
beforeAll(async () => {
  world = await startWorld();
  at = await releasedExercise(world, { attempts: 20 });
});
afterAll(() => world.stop());

const idOf = async (name: string) => {
  const { body } = await at.instructor.call<Schemas['Member'][]>('GET', `${at.course}/people`);
  return body.find((member) => member.name === name)?.id ?? '';
};
const address = () => `${randomUUID()}@test.example`;

describe('passwords', () => {
  it('are kept as argon2id with 19 MiB and two passes', async () => {
    const visitor = await new Visitor(world.address).signUp('Hana Hashed');
    const [row] = await asOwner<{ password_hash: string }>(
      'SELECT password_hash FROM identity.person WHERE email = $1',
      [visitor.email],
    );
    expect(row?.password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });

  it('are not guessed: after ten wrong ones the right one waits too, and the answer says how long', async () => {
    const visitor = await new Visitor(world.address).signUp('Gil Guessed');
    const guess = (password: string) =>
      new Visitor(world.address).call('POST', '/session', { email: visitor.email, password });
    for (let i = 0; i < 10; i++) expect((await guess(`wrong guess ${i}`)).status).toBe(401);
    const reply = await guess(PASSWORD);
    expect(reply).toMatchObject({ status: 429, body: { code: 'too-many' } });
    expect(reply.body.title).toMatch(/^Too many attempts. Try again in \d+ minutes\.$/);
    expect(Number(reply.headers.get('retry-after'))).toBeGreaterThan(600);
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

describe('one-time links', () => {
  it('set a new password once, and end every session and token', async () => {
    const { student } = await joinedStudent(world, at, 'Lou Linked');
    await student.call('POST', '/tokens', { name: 'laptop', scopes: ['read'], days: 7 });
    const { body: link } = await at.instructor.call<Schemas['MadeLink']>(
      'POST',
      `${at.course}/people/${await idOf('Lou Linked')}/password-link`,
    );
    const path = link.path.replace('/password/', '/password-links/');
    const visitor = new Visitor(world.address);
    expect((await visitor.call('GET', path)).body).toEqual({ name: 'Lou Linked', email: student.email });
    expect((await visitor.call('POST', path, { password: 'short' })).status).toBe(400);
    expect((await visitor.call('POST', path, { password: 'another ten letters' })).status).toBe(204);
    expect((await student.call('GET', '/tokens')).status).toBe(401);
    expect((await visitor.call<unknown[]>('GET', '/tokens')).body).toEqual([]);
    expect((await new Visitor(world.address).call('POST', path, { password: PASSWORD })).status).toBe(404);
  });

  it('are not made for instructors, nor for staff of another course', async () => {
    const other = await releasedExercise(world);
    await other.instructor.call('POST', '/courses/join', { code: at.joinCode });
    const { body: members } = await at.instructor.call<Schemas['Member'][]>('GET', `${at.course}/people`);
    for (const [email, code] of [
      [at.instructor.email, 'is-instructor'],
      [other.instructor.email, 'staff-elsewhere'],
    ]) {
      const id = members.find((member) => member.email === email)?.id ?? '';
      expect(await at.instructor.call('POST', `${at.course}/people/${id}/password-link`)).toMatchObject({
        status: 409,
        body: { code },
      });
    }
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
    expect((await join(body.joinCode ?? '')).status).toBe(200);
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

describe('tokens', () => {
  const bearer = (token: string) => ({ authorization: `Bearer ${token}` });

  async function studentWithToken(name: string, scopes: string[]) {
    const { student, identifiers } = await joinedStudent(world, at, name);
    const { body } = await student.call<Schemas['MadeToken']>('POST', '/tokens', {
      name: 'notebook',
      scopes,
      days: 30,
    });
    return { student, identifiers, ...body, program: new Visitor(world.address) };
  }

  it('hand in a file and get its receipt in the same answer', async () => {
    const { identifiers, token, program } = await studentWithToken('Tove Token', ['hand-in']);
    const reply = await program.upload<{ outcome: string }>(
      `${at.path}/submissions?wait=60`,
      'mine.csv',
      fileFor(identifiers, truthOf),
      bearer(token),
    );
    expect(reply).toMatchObject({ status: 200, body: { outcome: 'checked' } });
  });

  it('say that a file is bad, and that costs no attempt', async () => {
    const { student, identifiers, token, program } = await studentWithToken('Bea Bad', ['hand-in']);
    const reply = await program.upload<{ outcome: string }>(
      `${at.path}/submissions?wait=60`,
      'bad.csv',
      fileFor(identifiers.slice(1), truthOf),
      bearer(token),
    );
    expect(reply).toMatchObject({ status: 200, body: { outcome: 'refused' } });
    expect(await usedBy(student, at.path)).toBe(0);
  });

  it('do what they are allowed and no more', async () => {
    const { identifiers, token, program } = await studentWithToken('Nils Narrow', ['read']);
    expect((await program.call('GET', at.path, undefined, bearer(token))).status).toBe(200);
    const file = fileFor(identifiers, truthOf);
    expect(await program.upload(`${at.path}/submissions`, 'mine.csv', file, bearer(token))).toMatchObject({
      status: 403,
      body: { code: 'out-of-scope', title: 'This token may not do that: it lacks the scope hand-in.' },
    });
    for (const [method, path] of [
      ['GET', '/tokens'],
      ['POST', '/tokens'],
      ['POST', '/courses'],
      ['DELETE', '/sessions'],
    ] as const) {
      expect((await program.call(method, path, undefined, bearer(token))).status).toBe(403);
    }
    // What its person may not do, a token does not even learn of.
    expect((await program.call('GET', `${at.course}/audit`, undefined, bearer(token))).status).toBe(404);
  });

  it('end when they are revoked or have expired; a wrong one is nobody, whatever the session', async () => {
    const { student, id, token, program } = await studentWithToken('Rita Revoked', ['read']);
    expect((await student.call('GET', at.path, undefined, bearer(`${token}x`))).status).toBe(401);
    await asOwner(`UPDATE identity.token SET expires_at = now() - interval '1 minute' WHERE id = $1`, [id]);
    expect((await program.call('GET', at.path, undefined, bearer(token))).status).toBe(401);
    await asOwner(`UPDATE identity.token SET expires_at = now() + interval '1 day' WHERE id = $1`, [id]);
    expect((await program.call('GET', at.path, undefined, bearer(token))).status).toBe(200);
    expect((await student.call('DELETE', `/tokens/${id}`)).status).toBe(204);
    expect((await program.call('GET', at.path, undefined, bearer(token))).status).toBe(401);
  });

  it('are told once and kept as a hash', async () => {
    const { student, token } = await studentWithToken('Hal Hash', ['read', 'hand-in']);
    const { text } = await student.call<Schemas['TokenInfo'][]>('GET', '/tokens');
    expect(text).not.toContain(token);
    const [row] = await asOwner<{ found: boolean }>(
      `SELECT bool_or(t::text LIKE '%' || $1 || '%') AS found FROM identity.token t`,
      [token],
    );
    expect(row?.found).toBe(false);
  });
});

describe('a roster', () => {
  const send = (path: string, csv: string) =>
    at.instructor.upload<never>(`${at.course}/${path}`, 'class.csv', csv);

  it('is shown line by line before it is imported, and then brings everybody', async () => {
    const { student: elsewhere } = await joinedStudent(world, await releasedExercise(world), 'Kim Known');
    const [fresh, helper] = [address(), address()];
    const csv = `name,address,role\nFay Fresh,${fresh},\nKim Known,${elsewhere.email},student\nHugo Helper,${helper},assistant\nAda Instructor,${at.instructor.email},student\n`;
    const preview = (await send('roster/preview', csv)).body as Schemas['RosterPreview'];
    expect(preview.lines.map(({ line, what }) => [line, what])).toEqual([
      [2, 'new account'],
      [3, 'joins'],
      [4, 'new account'],
      [5, 'already here'],
    ]);
    expect(await idOf('Fay Fresh')).toBe('');
    const result = (await send('roster', csv)).body as Schemas['RosterResult'];
    expect(result.joined).toBe(3);
    expect(result.links.map(({ email }) => email)).toEqual([fresh, helper]);
    const { body: members } = await at.instructor.call<Schemas['Member'][]>('GET', `${at.course}/people`);
    expect(members.find((m) => m.email === helper)).toMatchObject({ role: 'assistant', hasPassword: false });
    // Nobody signs in to an account without a password; its link opens it.
    const visitor = new Visitor(world.address);
    expect((await visitor.call('POST', '/session', { email: fresh, password: '' })).status).toBe(401);
    const path = result.links[0]?.path.replace('/password/', '/password-links/') ?? '';
    expect((await visitor.call('POST', path, { password: PASSWORD })).status).toBe(204);
    expect((await visitor.call('GET', at.course)).status).toBe(200);
    const again = (await send('roster', csv)).body as Schemas['RosterResult'];
    expect(again).toEqual({ joined: 0, links: [] });
  });

  it.each([
    ['name,address\nA,not an address\n', 'class.csv, line 2: “not an address” is not an address.'],
    [
      'name,address\n,a@test.example\nB,b@test.example\n',
      'class.csv, line 2: there is no name, or too long a one.',
    ],
    [
      'name,address\nA,twice@test.example\nB,Twice@test.example\n',
      'class.csv, line 3: the same address stands on line 2.',
    ],
    [
      'name,address,role\nA,role@test.example,owner\n',
      'class.csv, line 2: “owner” is no role; there are student and assistant.',
    ],
    ['name,mail\nA,a@test.example\n', 'class.csv, line 1: there is no column “address”.'],
    ['', 'class.csv is empty.'],
  ])('with a fault is refused whole: %j', async (csv, message) => {
    const before = (await at.instructor.call<unknown[]>('GET', `${at.course}/people`)).body.length;
    expect(await send('roster', csv)).toMatchObject({ status: 422, body: { title: message } });
    expect((await at.instructor.call<unknown[]>('GET', `${at.course}/people`)).body).toHaveLength(before);
  });
});

describe('assistants', () => {
  it('see submissions and the gradebook, and change nothing', async () => {
    const own = await releasedExercise(world);
    const { student: assistant } = await joinedStudent(world, own, 'Aki Assistant');
    const { student, identifiers } = await joinedStudent(world, own);
    await student.upload(`${own.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
    const { body: members } = await own.instructor.call<Schemas['Member'][]>('GET', `${own.course}/people`);
    const id = members.find((member) => member.name === 'Aki Assistant')?.id ?? '';
    await own.instructor.call('PUT', `${own.course}/people/${id}`, { role: 'assistant' });
    const view = await assistant.call<Schemas['ClassView']>('GET', `${own.path}/class`);
    expect(view.body.lines).toMatchObject([{ marks: 10 }]);
    const { body: draft } = await own.instructor.call<{ id: string }>(
      'POST',
      `${own.course}/exercises`,
      own.settings,
    );
    expect((await assistant.call('GET', `${own.course}/exercises/${draft.id}`)).status).toBe(404);
    expect((await assistant.call('POST', `${own.path}/return`)).status).toBe(404);
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
      'Ada Instructor kept a split of Cases',
      'Ada Instructor marked the columns of Cases',
      'Ada Instructor brought the table cases.csv',
      'Ada Instructor made the course Test course',
    ]);
    expect(body.next).toBeNull();
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
