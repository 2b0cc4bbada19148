import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Features of a data set that were saved by name; students and their connection know nothing of them. */
export class FeatureSets1765000000013 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE vault.feature_set (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        data_set_id uuid NOT NULL REFERENCES data_set ON DELETE CASCADE,
        name text NOT NULL,
        features jsonb NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (data_set_id, name)
      );
      GRANT SELECT, INSERT, UPDATE, DELETE ON vault.feature_set TO sieve_staff;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Feature sets are never thrown away as a whole.'));
  }
}
