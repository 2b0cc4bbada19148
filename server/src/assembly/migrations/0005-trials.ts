import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Models that are tried over kept folds; students and their connection know nothing of them. */
export class Trials1764300000005 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE vault.trial (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        fold_set_id uuid NOT NULL REFERENCES fold_set ON DELETE CASCADE,
        plan jsonb NOT NULL,
        -- Of folds and plan: asked for again, the same trial is answered from here.
        plan_hash text NOT NULL,
        state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'failed')),
        problem jsonb,
        -- The settings of a curve and the number of folds, once they are known.
        settled jsonb,
        -- Figures of the chosen setting and of the final model; curve, choices and what the model has to show.
        outcome jsonb,
        detail jsonb,
        held_out jsonb,
        is_reference boolean NOT NULL DEFAULT false,
        made_by uuid NOT NULL REFERENCES identity.person,
        created_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (fold_set_id, plan_hash)
      );
      CREATE INDEX trial_course ON vault.trial (course_id);

      -- Folds that were measured, so that a trial goes on where a worker left it.
      CREATE TABLE vault.trial_fold (
        trial_id uuid NOT NULL REFERENCES vault.trial ON DELETE CASCADE,
        repeat int NOT NULL,
        fold int NOT NULL,
        measured jsonb NOT NULL,
        seconds double precision NOT NULL,
        PRIMARY KEY (trial_id, repeat, fold)
      );

      -- The model that was fitted to all training rows, and predictions of every row out of fold.
      CREATE TABLE vault.trial_model (
        trial_id uuid PRIMARY KEY REFERENCES vault.trial ON DELETE CASCADE,
        fitted bytea NOT NULL,
        out_of_fold bytea NOT NULL
      );

      GRANT SELECT, INSERT, UPDATE, DELETE ON vault.trial TO sieve_staff, sieve_worker;
      GRANT SELECT, DELETE ON vault.trial_fold, vault.trial_model TO sieve_staff;
      GRANT SELECT, INSERT, UPDATE, DELETE ON vault.trial_fold, vault.trial_model TO sieve_worker;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Trials are never thrown away as a whole.'));
  }
}
