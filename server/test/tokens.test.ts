import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { fileFor, invitedMember, joinedStudent, releasedExercise, truthOf, usedBy } from './world/class.js';
import { Visitor } from './world/visitor.js';

let world: World;

let at: Awaited<ReturnType<typeof releasedExercise>>;

beforeAll(async () => {
  world = await startWorld();
  at = await releasedExercise(world, { attempts: 20 });
});

afterAll(() => world.stop());

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
    const wrong = await new Visitor(world.address).call('GET', at.path, undefined, bearer('sieve_nonsense'));
    expect(wrong).toMatchObject({
      status: 401,
      body: { code: 'token', title: expect.stringContaining('The token is not valid') },
    });
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

  it('of staff open nothing in the courses where they are staff', async () => {
    const { body } = await at.instructor.call<Schemas['MadeToken']>('POST', '/tokens', {
      name: 'script',
      scopes: ['read', 'hand-in'],
      days: 30,
    });
    const program = new Visitor(world.address);
    for (const path of [
      at.course,
      at.path,
      `${at.course}/exercises`,
      `${at.path}/class`,
      `${at.course}/people`,
    ])
      expect((await program.call('GET', path, undefined, bearer(body.token))).status).toBe(403);
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

describe('assistants', () => {
  it('see submissions and the gradebook, and change no data and no exercise', async () => {
    const own = await releasedExercise(world);
    const assistant = await invitedMember(world, own, 'assistant', 'Aki Assistant');
    const { student, identifiers } = await joinedStudent(world, own);
    await student.upload(`${own.path}/submissions?wait=60`, 'mine.csv', fileFor(identifiers, truthOf));
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
