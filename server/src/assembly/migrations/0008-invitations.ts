import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Invitations to an address whose account nobody had claimed are accepted by their link alone. Receipts say whether a
 * score was kept back because it depends on a single row; none was before.
 */
export class Invitations1764600000008 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE identity.invitation ADD COLUMN by_link_only boolean NOT NULL DEFAULT false;
      UPDATE identity.invitation i SET by_link_only = p.password_hash IS NULL
        FROM identity.person p WHERE p.email = i.email;
      ALTER TABLE identity.invitation ALTER COLUMN by_link_only DROP DEFAULT;
      UPDATE receipt SET disclosed = jsonb_set(disclosed, '{scored,fewRows}', 'false')
        WHERE jsonb_typeof(disclosed -> 'scored') = 'object';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE identity.invitation DROP COLUMN by_link_only;
      UPDATE receipt SET disclosed = disclosed #- '{scored,fewRows}';
    `);
  }
}
