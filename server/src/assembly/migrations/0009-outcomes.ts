import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * The worker writes into the trail how a release ended: before, only that it was asked for could be told. What students read
 * of a correction is written when it is known what it changes, and not kept with what is computed.
 */
export class Outcomes1764700000009 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      GRANT INSERT, SELECT ON audit_event TO sieve_worker;
      ALTER TABLE vault.correction DROP COLUMN notice;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      REVOKE INSERT, SELECT ON audit_event FROM sieve_worker;
      ALTER TABLE vault.correction ADD COLUMN notice text NOT NULL DEFAULT '';
    `);
  }
}
