import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The worker writes into the trail how a release ended: before, only that it was asked for could be told. */
export class Outcomes1764700000009 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`GRANT INSERT, SELECT ON audit_event TO sieve_worker`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`REVOKE INSERT, SELECT ON audit_event FROM sieve_worker`);
  }
}
