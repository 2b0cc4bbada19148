import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { asOwner, startWorld, type World } from './world/world.js';
import { PASSWORD, Visitor } from './world/visitor.js';

let world: World;
beforeAll(async () => {
  world = await startWorld();
});
afterAll(() => world.stop());

const guess = (email: string, password: string, by = new Visitor(world.address)) =>
  by.call('POST', '/session', { email, password });
const afresh = () => asOwner('DELETE FROM identity.rate_limit');

describe('guessing', () => {
  it('is slowed down from one address: after eight free ones the wait doubles, the right password included', async () => {
    await afresh();
    const { email } = await new Visitor(world.address).signUp('Gil Guessed');
    const statuses: number[] = [];
    for (let i = 0; i < 11; i++) statuses.push((await guess(email, `wrong guess ${i}`)).status);
    expect(statuses.slice(0, 9)).toEqual(Array.from({ length: 9 }, () => 401));
    expect(statuses.slice(9)).toContain(429);
    const reply = await guess(email, PASSWORD);
    expect(reply).toMatchObject({ status: 429, body: { code: 'too-many' } });
    // A wait, and no lock: never longer than a minute.
    expect(Number(reply.headers.get('retry-after'))).toBeLessThanOrEqual(60);
    expect(reply.body.title).toMatch(/^Too many attempts. Try again in \d+ seconds?\.$/);
  });

  it('counts attempts before it looks at them: twenty at the same moment get no more looks than one after another', async () => {
    await afresh();
    const { email } = await new Visitor(world.address).signUp('Max Moment');
    const replies = await Promise.all(Array.from({ length: 20 }, (_, i) => guess(email, `at once ${i}`)));
    expect(replies.filter(({ status }) => status === 401).length).toBeLessThanOrEqual(9);
  });

  it('is forgiven once the right password is given', async () => {
    await afresh();
    const { email } = await new Visitor(world.address).signUp('Fay Forgetful');
    for (let round = 0; round < 4; round++) {
      for (let i = 0; i < 5; i++) expect((await guess(email, `mistyped ${i}`)).status).toBe(401);
      expect((await guess(email, PASSWORD)).status).toBe(204);
    }
  });

  it('of others locks nobody out: neither who has signed in here before, nor who shares the address', async () => {
    await afresh();
    const own = await new Visitor(world.address).signUp('Vera Victim');
    const neighbour = await new Visitor(world.address).signUp('Nico Neighbour');
    for (let i = 0; i < 30; i++) await guess(own.email, `wrong guess ${i}`);
    expect((await guess(own.email, PASSWORD)).status).toBe(429);
    // Her browser is known.
    expect((await guess(own.email, PASSWORD, own)).status).toBe(204);
    // 110 failures at other accounts from the address of the whole campus.
    for (let i = 0; i < 110; i++) await guess(`nobody${i % 40}@test.example`, 'wrong');
    expect((await guess(neighbour.email, PASSWORD)).status).toBe(204);
  });

  it('says the same of an address that nobody has', async () => {
    await afresh();
    const { email } = await new Visitor(world.address).signUp('Kim Known');
    const [known, unknown] = [await guess(email, 'wrong password'), await guess('no@test.example', 'wrong')];
    expect(known.body.title).toBe(unknown.body.title);
    expect(known.status).toBe(unknown.status);
  });
});

describe('a session', () => {
  it('is another one after signing in, and the one before it ends', async () => {
    const visitor = await new Visitor(world.address).signUp('Rene Renewed');
    const before = visitor.cookie;
    await guess(visitor.email, PASSWORD, visitor);
    expect(visitor.cookie).not.toBe(before);
    const old = await fetch(`${world.address}/api/v1/tokens`, { headers: { cookie: before } });
    expect(old.status).toBe(401);
  });

  it('ends its streams with it', async () => {
    const visitor = await new Visitor(world.address).signUp('Stig Streaming');
    const { body } = await visitor.call<{ id: string }>('POST', '/courses', {
      name: 'Streams',
      timeZone: 'UTC',
    });
    const stream = await fetch(`${world.address}/api/v1/courses/${body.id}/events`, {
      headers: { cookie: visitor.cookie },
    });
    expect(stream.status).toBe(200);
    const reader = stream.body?.getReader();
    const ended = (async () => {
      for (;;) if ((await reader?.read())?.done !== false) return 'ended';
    })();
    await visitor.call('DELETE', '/sessions');
    const limit = new Promise((resolve) => setTimeout(resolve, 5000, 'still open'));
    expect(await Promise.race([ended, limit])).toBe('ended');
  });

  it('is answered with nothing that a browser or a proxy keeps', async () => {
    const { headers } = await new Visitor(world.address).call('GET', '/session');
    expect(headers.get('cache-control')).toBe('no-store');
  });
});
