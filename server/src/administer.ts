import pg from 'pg';
import { firstAdministratorLink } from './administration/first-administrator.js';
import { hashOf, newSecret } from './people/secrets.js';
import { ConfigError, readConfig } from './platform/config/config.js';

/** `npm run administer -- COMMAND [ADDRESS]`: what the person who runs the server does without signing in. */

const USAGE = `npm run administer -- first                    a link by which the first administrator is made
npm run administer -- password ADDRESS         a link for a new password of a person
npm run administer -- allow ADDRESS            lets a person make courses
npm run administer -- administrator ADDRESS    makes a person an administrator
npm run administer -- no-administrator ADDRESS takes the role away
npm run administer -- course-makers invited|anyone`;

const BY = 'the administrator’s command';
const { ownerUrl } = readOrEnd();
const client = new pg.Client({ connectionString: ownerUrl });
const query = async (text: string, values: unknown[] = []): Promise<unknown[]> =>
  (await client.query<Record<string, unknown>>(text, values)).rows;
const record = (text: string) =>
  query('INSERT INTO identity.server_event (by, text) VALUES ($1, $2)', [BY, text]);

try {
  await client.connect();
  await client.query('BEGIN');
  console.log(await run(process.argv[2] ?? '', process.argv[3] ?? ''));
  await client.query('COMMIT');
} catch (error) {
  console.error(error instanceof ConfigError ? error.message : error);
  process.exitCode = 1;
} finally {
  await client.end();
}

function readOrEnd() {
  try {
    return readConfig();
  } catch (error) {
    console.error(error instanceof ConfigError ? error.message : error);
    process.exit(1);
  }
}

async function run(command: string, argument: string): Promise<string> {
  switch (command) {
    case 'first':
      return (await firstAdministratorLink(query)) ?? 'This server has an administrator already.';
    case 'password':
      return passwordLink(await personOf(argument));
    case 'allow':
      return change(argument, 'may_make_courses = true', 'may make courses');
    case 'administrator':
      return change(argument, 'is_administrator = true', 'is an administrator');
    case 'no-administrator':
      return change(argument, 'is_administrator = false', 'is no administrator');
    case 'course-makers':
      if (argument !== 'invited' && argument !== 'anyone') throw new ConfigError(USAGE);
      await query(`UPDATE identity.setting SET value = $1 WHERE name = 'course-makers'`, [argument]);
      await record(`set that courses are made by ${argument}`);
      return `Courses are made by ${argument}.`;
    default:
      throw new ConfigError(USAGE);
  }
}

interface Found {
  readonly id: string;
  readonly name: string;
  readonly email: string;
}

async function personOf(address: string): Promise<Found> {
  const [person] = (await query(
    'SELECT id, name, email FROM identity.person WHERE email = $1 AND deleted_at IS NULL',
    [address.trim().toLowerCase()],
  )) as Found[];
  if (!person) throw new ConfigError(`Nobody has the address “${address}”.\n\n${USAGE}`);
  return person;
}

/** @param column an assignment of ours, never of the caller's */
async function change(address: string, column: string, words: string): Promise<string> {
  const person = await personOf(address);
  await query(`UPDATE identity.person SET ${column} WHERE id = $1`, [person.id]);
  await query('INSERT INTO identity.account_event (person_id, text) VALUES ($1, $2)', [
    person.id,
    `The administrator of this server said that you: ${words}.`,
  ]);
  await record(`said that ${person.email} ${words}`);
  return `${person.name} (${person.email}) ${words}.`;
}

async function passwordLink(person: Found): Promise<string> {
  const secret = newSecret();
  await query('DELETE FROM identity.password_link WHERE person_id = $1', [person.id]);
  await query(
    `INSERT INTO identity.password_link (token_hash, person_id, made_by, expires_at)
       VALUES ($1, $2, NULL, now() + interval '1 day')`,
    [hashOf(secret), person.id],
  );
  await query('INSERT INTO identity.account_event (person_id, text) VALUES ($1, $2)', [
    person.id,
    'The administrator of this server made a link by which your password can be set.',
  ]);
  await query(
    `INSERT INTO audit_event (course_id, person_id, action, subject, detail)
       SELECT course_id, person_id, 'link made', $2, '{"by": "the administrator of this server"}' FROM membership WHERE person_id = $1`,
    [person.id, person.name],
  );
  await record(`made a link for a new password of ${person.email}`);
  return `For ${person.name} (${person.email}), once, for a day:\n/password/${secret}`;
}
