import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Versions that steps made of a raw table, and those that are to be made. */
export class Preparation1764100000003 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE data_set_version
        DROP dialect,
        ADD base_id uuid REFERENCES data_set_version ON DELETE CASCADE,
        ADD steps jsonb NOT NULL DEFAULT '[]',
        ADD effects jsonb NOT NULL DEFAULT '[]';

      -- The data set that a file is a new raw table of; a file of its own makes a new one.
      ALTER TABLE import ADD into_id uuid REFERENCES data_set ON DELETE CASCADE;

      CREATE TABLE preparation (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        data_set_id uuid NOT NULL REFERENCES data_set ON DELETE CASCADE,
        base_id uuid NOT NULL REFERENCES data_set_version ON DELETE CASCADE,
        steps jsonb NOT NULL,
        state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'failed')),
        problem jsonb,
        made_by uuid NOT NULL REFERENCES identity.person,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX preparation_data_set ON preparation (data_set_id, created_at);

      GRANT SELECT ON preparation TO sieve_staff, sieve_worker;
      GRANT INSERT ON preparation TO sieve_staff;
      GRANT UPDATE (state, problem) ON preparation TO sieve_staff, sieve_worker;
      GRANT INSERT ON column_roles TO sieve_worker;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Versions are never taken back.'));
  }
}
