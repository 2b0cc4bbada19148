import type { EntityManager } from 'typeorm';
import { recordOnServer } from '../courses/deleting.js';
import { AccountEvent, PersonRecord } from '../people/person.entity.js';
import { hashOf, newSecret } from '../people/secrets.js';
import type { Person } from '../platform/access/access.js';
import { notFound } from '../platform/errors/problem.js';

const HOURS = 24;

/**
 * A one-time link by which the person who started the server becomes its administrator; null where there is one.
 *
 * @param db a connection of the owner or of `identity`
 */
export async function firstAdministratorLink(
  query: (text: string, values?: unknown[]) => Promise<unknown[]>,
): Promise<string | null> {
  const there = await query('SELECT 1 FROM identity.person WHERE is_administrator LIMIT 1');
  if (there.length > 0) return null;
  const secret = newSecret();
  await query('DELETE FROM identity.administrator_link WHERE expires_at < now()');
  await query(
    `INSERT INTO identity.administrator_link (token_hash, expires_at) VALUES ($1, now() + interval '${HOURS} hours')`,
    [hashOf(secret)],
  );
  return `/administrator/${secret}`;
}

/** @throws Problem 404 where the link is none, has expired, or the server has an administrator */
export async function claimAdministration(
  manager: EntityManager,
  person: Person,
  secret: string,
): Promise<void> {
  const taken: unknown[] = await manager.query(
    `WITH taken AS (DELETE FROM identity.administrator_link WHERE token_hash = $1 AND expires_at > now() RETURNING 1)
       SELECT 1 FROM taken WHERE NOT EXISTS (SELECT 1 FROM identity.person WHERE is_administrator)`,
    [hashOf(secret)],
  );
  if (taken.length === 0) throw notFound();
  await manager.query('DELETE FROM identity.administrator_link');
  await manager.update(PersonRecord, { id: person.id }, { isAdministrator: true });
  await manager.insert(AccountEvent, {
    personId: person.id,
    text: 'You became the administrator of this server.',
  });
  await recordOnServer(manager, person.name, 'became the administrator of this server');
}
