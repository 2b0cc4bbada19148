import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Plans say what becomes of repeated rows. Before, splits and folds of all rows dropped them; folds of a split's training
 * rows had none to drop.
 */
export class RepeatedRows1765100000014 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      UPDATE split SET plan = jsonb_set(plan, '{values,repeatedRows}', '"drop"');
      UPDATE fold_set SET plan = jsonb_set(plan, '{values,repeatedRows}', '"drop"') WHERE split_id IS NULL;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      UPDATE split SET plan = plan #- '{values,repeatedRows}';
      UPDATE fold_set SET plan = plan #- '{values,repeatedRows}';
    `);
  }
}
