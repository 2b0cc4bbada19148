import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Splits, folds and runs have names; an earlier version of a data set can be made current again; and what nothing uses can be
 * deleted.
 */
export class Names1764800000010 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE data_set ADD current_number int;
      ALTER TABLE split ADD name text NOT NULL DEFAULT '';
      ALTER TABLE fold_set ADD name text NOT NULL DEFAULT '';
      ALTER TABLE vault.trial ADD name text NOT NULL DEFAULT '';
      GRANT UPDATE (name, current_number) ON data_set TO sieve_staff;
      GRANT UPDATE (current_number) ON data_set TO sieve_worker;
      GRANT UPDATE (name) ON split, fold_set TO sieve_staff;
      GRANT DELETE ON data_set, data_set_version, split, fold_set TO sieve_staff;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      REVOKE DELETE ON data_set, data_set_version, split, fold_set FROM sieve_staff;
      REVOKE UPDATE (name, current_number) ON data_set FROM sieve_staff;
      ALTER TABLE data_set DROP COLUMN current_number;
      ALTER TABLE split DROP COLUMN name;
      ALTER TABLE fold_set DROP COLUMN name;
      ALTER TABLE vault.trial DROP COLUMN name;
    `);
  }
}
