import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Searches through settings; students and their connection know nothing of them. */
export class Searches1765000000012 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Settings that were measured, so that a search goes on where a worker left it.
      CREATE TABLE vault.trial_setting (
        trial_id uuid NOT NULL REFERENCES vault.trial ON DELETE CASCADE,
        round int NOT NULL,
        place int NOT NULL,
        measured jsonb NOT NULL,
        -- Predictions of the last round, which tell how much of the best setting is luck.
        out_of_fold bytea,
        seconds double precision NOT NULL,
        PRIMARY KEY (trial_id, round, place)
      );
      GRANT SELECT, DELETE ON vault.trial_setting TO sieve_staff;
      GRANT SELECT, INSERT, UPDATE, DELETE ON vault.trial_setting TO sieve_worker;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Searches are never thrown away as a whole.'));
  }
}
