import type { MigrationInterface, QueryRunner } from 'typeorm';

/** An exercise says when students read of known mistakes. Those of before told none, and tell none. */
export class Slips1765100000015 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE exercise ADD COLUMN slips text NOT NULL DEFAULT 'never'
        CHECK (slips IN ('never', 'after-attempt', 'after-return'));
      ALTER TABLE exercise ALTER COLUMN slips SET DEFAULT 'after-return';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE exercise DROP COLUMN slips');
  }
}
