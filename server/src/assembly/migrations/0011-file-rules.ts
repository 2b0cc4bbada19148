import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sheets no longer carry the rules of a file: those that students have of their own are generated again. */
export class FileRules1764900000011 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('DELETE FROM own_sheet');
  }

  async down(): Promise<void> {
    // They are generated again.
  }
}
