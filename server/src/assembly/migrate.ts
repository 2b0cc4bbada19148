import { PgBossOwner } from '../platform/jobs/owner.js';
import { DataSource } from 'typeorm';
import { ALL_JOB_KINDS } from './job-kinds.js';
import { DATABASE_ROLES, databasePassword, databaseUser, type Config } from '../platform/config/config.js';
import { ThePath1763900000001 } from './migrations/0001-the-path.js';
import { Foundations1764000000002 } from './migrations/0002-foundations.js';
import { Preparation1764100000003 } from './migrations/0003-preparation.js';
import { Desks1764200000004 } from './migrations/0004-desks.js';
import { Trials1764300000005 } from './migrations/0005-trials.js';
import { Sheets1764400000006 } from './migrations/0006-sheets.js';
import { Secrets1764500000007 } from './migrations/0007-secrets.js';
import { Invitations1764600000008 } from './migrations/0008-invitations.js';
import { Outcomes1764700000009 } from './migrations/0009-outcomes.js';
import { Names1764800000010 } from './migrations/0010-names.js';
import { FileRules1764900000011 } from './migrations/0011-file-rules.js';
import { Searches1765000000012 } from './migrations/0012-searches.js';
import { FeatureSets1765000000013 } from './migrations/0013-feature-sets.js';
import { RepeatedRows1765100000014 } from './migrations/0014-repeated-rows.js';
import { Slips1765100000015 } from './migrations/0015-slips.js';
import { Gradebook1765200000016 } from './migrations/0016-gradebook.js';
import { Verdicts1765300000017 } from './migrations/0017-verdicts.js';
import { CheckAgain1765400000018 } from './migrations/0018-check-again.js';

/** In the order in which they are done. */
const MIGRATIONS = [
  ThePath1763900000001,
  Foundations1764000000002,
  Preparation1764100000003,
  Desks1764200000004,
  Trials1764300000005,
  Sheets1764400000006,
  Secrets1764500000007,
  Invitations1764600000008,
  Outcomes1764700000009,
  Names1764800000010,
  FileRules1764900000011,
  Searches1765000000012,
  FeatureSets1765000000013,
  RepeatedRows1765100000014,
  Slips1765100000015,
  Gradebook1765200000016,
  Verdicts1765300000017,
  CheckAgain1765400000018,
];

/** Any number will do, as long as every process of the product takes the same one. */
const MIGRATION_LOCK = 7_304_118;

/**
 * Brings the database up to date: roles, tables, queues. Safe to run from several processes at once.
 *
 * @param upTo number of the last migration; tests bring a database to an earlier form by it
 */
export async function migrate(config: Config, upTo = MIGRATIONS.length): Promise<void> {
  const owner = new DataSource({
    type: 'postgres',
    url: config.ownerUrl,
    migrations: MIGRATIONS.slice(0, upTo),
    migrationsTableName: 'migration',
    applicationName: 'modest-sieve migrate',
  });
  await owner.initialize();
  const lock = owner.createQueryRunner();
  try {
    await lock.query('SELECT pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await createRoles(owner, config);
    await owner.runMigrations({ transaction: 'each' });
    await new PgBossOwner(config.ownerUrl).migrate(ALL_JOB_KINDS);
    await owner.query(`
      GRANT USAGE ON SCHEMA pgboss TO sieve_student, sieve_staff, sieve_worker;
      GRANT SELECT, INSERT ON pgboss.job TO sieve_student, sieve_staff;
      GRANT UPDATE (state, completed_on) ON pgboss.job TO sieve_staff;
      GRANT SELECT ON pgboss.queue TO sieve_student, sieve_staff;
      GRANT ALL ON ALL TABLES IN SCHEMA pgboss TO sieve_worker;
      GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA pgboss TO sieve_worker;
    `);
  } finally {
    await lock.query('SELECT pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    await lock.release();
    await owner.destroy();
  }
}

/** The database roles, with the passwords that follow from the secret. */
export async function createRoles(owner: DataSource, config: Pick<Config, 'secret'>): Promise<void> {
  for (const role of DATABASE_ROLES) {
    const user = databaseUser(role);
    // The password is hexadecimal, so it needs no quoting; CREATE ROLE takes no parameters.
    const password = databasePassword(config, role);
    const found: unknown[] = await owner.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [user]);
    await owner.query(`${found.length > 0 ? 'ALTER' : 'CREATE'} ROLE ${user} LOGIN PASSWORD '${password}'`);
  }
}
