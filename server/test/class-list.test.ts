import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Schemas } from './world/schemas.js';
import { asOwner, startWorld, type World } from './world/world.js';
import { joinedStudent, releasedExercise } from './world/class.js';
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

const send = <T>(path: string, csv: string, by = at.instructor) =>
  by.upload<T>(`${at.course}/${path}`, 'class.csv', csv);

const routeOf = (path: string) =>
  path.replace('/invitation/', '/invitations/').replace('/password/', '/password-links/');

describe('an attack on accounts by a class list', () => {
  it('puts no stranger into a course, and lets nobody be them', async () => {
    const { student: stranger } = await joinedStudent(world, at, 'Sid Stranger');
    const attacker = await new Visitor(world.address).signUp('Mal Attacker');
    const { body } = await attacker.call<{ id: string }>('POST', '/courses', {
      name: 'Trap',
      timeZone: 'UTC',
    });
    const trap = `/courses/${body.id}`;
    const csv = `name,address\nSid Stranger,${stranger.email}\n`;
    const result = await attacker.upload<Schemas['RosterResult']>(`${trap}/roster`, 'class.csv', csv);
    expect(result.body.invited).toBe(1);
    // Nobody is a member by being listed.
    expect((await attacker.call<unknown[]>('GET', `${trap}/people`)).body).toHaveLength(1);
    expect((await stranger.call('GET', trap)).status).toBe(404);
    // The link of the invitation opens no account that somebody has.
    const path = routeOf(result.body.links[0]?.path ?? '');
    expect(
      await new Visitor(world.address).call('POST', `${path}/claim`, { password: PASSWORD }),
    ).toMatchObject({
      status: 409,
      body: { code: 'address-taken' },
    });
    // Even a member of both courses is not reset by one of the instructors.
    expect((await stranger.call('POST', `${path}/accept`)).status).toBe(200);
    const [own] = (await attacker.call<Schemas['Member'][]>('GET', `${trap}/people`)).body.filter(
      ({ role }) => role === 'student',
    );
    expect(own?.mayReset).toBe(false);
    expect(await attacker.call('POST', `${trap}/people/${own?.id ?? ''}/password-link`)).toMatchObject({
      status: 409,
      body: { code: 'not-yours-alone' },
    });
  });

  it('learns nothing about accounts from a preview, a result or a link', async () => {
    const { email: known } = await new Visitor(world.address).signUp('Kit Known');
    const unknown = address();
    const csv = `name,address\nOne,${known}\nTwo,${unknown}\n`;
    const { body: preview } = await send<Schemas['RosterPreview']>('roster/preview', csv);
    expect(preview.lines.map(({ what }) => what)).toEqual(['invited', 'invited']);
    const { body: result } = await send<Schemas['RosterResult']>('roster', csv);
    const shown = await Promise.all(
      result.links.map(({ path }) => new Visitor(world.address).call<object>('GET', routeOf(path))),
    );
    expect(Object.keys(shown[0]?.body ?? {})).toEqual(Object.keys(shown[1]?.body ?? {}));
    expect(shown.map(({ status }) => status)).toEqual([200, 200]);
  });

  it('takes nobody’s place in a course by claiming their account through another course', async () => {
    const email = address();
    const csv = `name,address\nVal Victim,${email}\n`;
    const { body: own } = await send<Schemas['RosterResult']>('roster', csv);
    const attacker = await new Visitor(world.address).signUp('Mal Attacker');
    const { body } = await attacker.call<{ id: string }>('POST', '/courses', {
      name: 'Trap',
      timeZone: 'UTC',
    });
    const trap = `/courses/${body.id}`;
    const { body: other } = await attacker.upload<Schemas['RosterResult']>(
      `${trap}/roster`,
      'class.csv',
      csv,
    );
    const mask = new Visitor(world.address, email);
    const claimed = await mask.call('POST', `${routeOf(other.links[0]?.path ?? '')}/claim`, {
      password: PASSWORD,
    });
    expect(claimed.status).toBe(204);
    const tried = async () => {
      expect((await mask.call<unknown[]>('GET', '/own-invitations')).body).toEqual([]);
      const rows = await asOwner<{ id: string }>('SELECT id FROM identity.invitation WHERE email = $1', [
        email,
      ]);
      expect(rows).toHaveLength(1);
      const path = `/own-invitations/${rows[0]?.id ?? ''}`;
      expect((await mask.call('POST', path)).status).toBe(404);
      expect((await mask.call('DELETE', path)).status).toBe(404);
    };
    await tried();
    // Nor after the class list is imported again.
    const { body: again } = await send<Schemas['RosterResult']>('roster', csv);
    await tried();
    // The person joins with another account by the link that they were handed.
    expect(own.links).toHaveLength(1);
    const victim = await new Visitor(world.address).signUp('Val Victim');
    const accepted = await victim.call('POST', `${routeOf(again.links[0]?.path ?? '')}/accept`);
    expect(accepted.status).toBe(200);
  });

  it('makes nobody an assistant by an address that was registered in advance', async () => {
    const squatter = await new Visitor(world.address).signUp('Sal Squatter');
    await send('roster', `name,address,role\nHugo Helper,${squatter.email},assistant\n`);
    expect((await squatter.call<unknown[]>('GET', '/own-invitations')).body).toEqual([]);
    expect((await squatter.call('GET', at.course)).status).toBe(404);
    const [invitation] = await asOwner<{ id: string }>(
      'SELECT id FROM identity.invitation WHERE email = $1',
      [squatter.email],
    );
    expect((await squatter.call('POST', `/own-invitations/${invitation?.id ?? ''}`)).status).toBe(404);
    // Nor is a student who joined under that address promoted.
    await squatter.call('POST', '/courses/join', { code: at.joinCode });
    const id = await idOf('Sal Squatter');
    expect((await at.instructor.call('PUT', `${at.course}/people/${id}`, { role: 'assistant' })).status).toBe(
      400,
    );
    expect((await membersOf()).find((member) => member.id === id)?.role).toBe('student');
  });
});

describe('a class list', () => {
  it.each([
    ['First name,Last name,Email', (email: string) => `Fay,Fresh,${email}`],
    ['Surname,Given Name,E-mail address', (email: string) => `Fresh,Fay,${email}`],
    ['Full name,E-Mail', (email: string) => `Fay Fresh,${email}`],
  ])('is read by the header %s', async (header, line) => {
    const { body } = await send<Schemas['RosterPreview']>(
      'roster/preview',
      `${header}\n${line(address())}\n`,
    );
    expect(body.lines).toMatchObject([{ name: 'Fay Fresh', what: 'invited', problem: null }]);
  });

  it('is shown line by line before it invites, and invites nobody twice who is there', async () => {
    const [fresh, helper] = [address(), address()];
    const csv = `name,address,role\nFay Fresh,${fresh},\nHugo Helper,${helper},assistant\nAda Instructor,${at.instructor.email},student\n`;
    const { body: preview } = await send<Schemas['RosterPreview']>('roster/preview', csv);
    expect(preview.lines.map(({ line, what }) => [line, what])).toEqual([
      [2, 'invited'],
      [3, 'invited'],
      [4, 'already here'],
    ]);
    const { body: result } = await send<Schemas['RosterResult']>('roster', csv);
    expect(result.links.map(({ email }) => email)).toEqual([fresh, helper]);
    const { body: again } = await send<Schemas['RosterPreview']>('roster/preview', csv);
    expect(again.lines.map(({ what }) => what)).toEqual(['invited again', 'invited again', 'already here']);
  });

  it.each([
    ['name,address\nA,not an address\n', 'class.csv, line 2: “not an address” is not an address.'],
    [
      'name,address\n,a@test.example\nB,b@test.example\n',
      'class.csv, line 2: there is no name, or too long a one.',
    ],
    [
      'name,address\nA,twice@test.example\nB,Twice@test.example\n',
      'class.csv, line 3: the same address is on line 2.',
    ],
    [
      'name,address,role\nA,role@test.example,owner\n',
      'class.csv, line 2: “owner” is no role; there are student and assistant.',
    ],
    [
      'name,post\nA,a@test.example\n',
      'class.csv, line 1: there is no column “address”; there are “name”, “post”. A class list has name, or first name and last name, and email.',
    ],
    ['', 'class.csv is empty.'],
  ])('with a fault is refused whole: %j', async (csv, message) => {
    const invited = () => at.instructor.call<unknown[]>('GET', `${at.course}/invitations`);
    const before = (await invited()).body.length;
    expect(await send('roster', csv)).toMatchObject({ status: 422, body: { title: message } });
    expect((await invited()).body).toHaveLength(before);
  });
});
