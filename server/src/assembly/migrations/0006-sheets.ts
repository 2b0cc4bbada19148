import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Exercises become sheets of questions; what was asked before becomes the one question of predictions of its sheet. */
export class Sheets1764400000006 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Questions with the truths that only staff may know; a row for each revision.
      CREATE TABLE vault.sheet (
        exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
        revision int NOT NULL,
        questions jsonb NOT NULL,
        PRIMARY KEY (exercise_id, revision)
      );
      GRANT SELECT, INSERT, UPDATE, DELETE ON vault.sheet TO sieve_staff;
      GRANT SELECT ON vault.sheet TO sieve_worker;
      -- An exercise that is withdrawn has no pack any more.
      GRANT DELETE ON pack TO sieve_staff;

      INSERT INTO vault.sheet (exercise_id, revision, questions)
        SELECT id, revision, jsonb_build_array(jsonb_build_object(
          'id', 'q1', 'kind', 'predictions', 'title', 'Hand in your predictions', 'text', '',
          'metric', metric, 'scheme', scheme)) FROM exercise;

      ALTER TABLE exercise
        ADD COLUMN marks double precision NOT NULL DEFAULT 0,
        ADD COLUMN draw_seed int NOT NULL DEFAULT floor(random() * 2147483647),
        ADD COLUMN per_day int,
        ADD COLUMN grace_minutes int NOT NULL DEFAULT 0,
        ADD COLUMN late_percent double precision NOT NULL DEFAULT 0,
        ADD COLUMN late_days int NOT NULL DEFAULT 0,
        ADD COLUMN opens_at timestamptz,
        ADD COLUMN reissued boolean NOT NULL DEFAULT false,
        ADD COLUMN notice text NOT NULL DEFAULT '',
        DROP CONSTRAINT exercise_feedback_check,
        ADD CHECK (feedback IN ('after-return', 'rounded', 'only-when-better', 'everything'));
      UPDATE exercise SET marks = (scheme ->> 'marks')::float;

      ALTER TABLE pack ADD COLUMN questions jsonb;
      UPDATE pack SET questions = jsonb_build_array(jsonb_build_object(
        'id', 'q1', 'kind', 'predictions', 'title', 'Hand in your predictions', 'text', '', 'marks', e.marks,
        'rules', pack.rules || jsonb_build_object('metric', e.metric, 'scheme', e.scheme), 'example', 'example.csv'))
        FROM exercise e WHERE e.id = pack.exercise_id;
      ALTER TABLE pack ALTER COLUMN questions SET NOT NULL, DROP COLUMN rules;
      ALTER TABLE exercise DROP COLUMN metric, DROP COLUMN scheme;

      ALTER TABLE submission
        ADD COLUMN question text NOT NULL DEFAULT 'q1',
        ADD COLUMN fields jsonb NOT NULL DEFAULT '{}',
        ALTER COLUMN file_name DROP NOT NULL,
        ALTER COLUMN file_sha256 DROP NOT NULL,
        DROP CONSTRAINT submission_exercise_id_person_id_number_key,
        ADD UNIQUE (exercise_id, person_id, question, number);
      ALTER TABLE submission ALTER COLUMN question DROP DEFAULT;

      UPDATE vault.result SET result = jsonb_build_object(
        'kind', 'predictions', 'checks', result -> 'checks', 'holds', result -> 'holds', 'rows', result -> 'rows',
        'judged', '[]'::jsonb, 'marks', result -> 'marks', 'outOf', result -> 'outOf',
        'scored', CASE WHEN result -> 'final' = 'null' THEN 'null'::jsonb ELSE jsonb_build_object(
          'metric', result -> 'metric', 'derivedLabels', result -> 'derivedLabels',
          'final', (result -> 'final') || '{"steps": null}',
          'feedback', CASE WHEN result -> 'feedback' = 'null' THEN 'null'::jsonb
                           ELSE (result -> 'feedback') || '{"steps": null}' END) END);
      UPDATE receipt SET disclosed = jsonb_build_object(
        'kind', 'predictions', 'checks', disclosed -> 'checks', 'holds', disclosed -> 'holds', 'judged', null,
        'marks', disclosed #> '{final,marks}', 'outOf', coalesce(disclosed #> '{final,outOf}', to_jsonb(e.marks)),
        'latePercent', 0, 'adjusted', null,
        'scored', CASE WHEN disclosed -> 'final' = 'null' AND disclosed -> 'feedback' = 'null' THEN 'null'::jsonb
          ELSE jsonb_build_object('metric', disclosed -> 'metric', 'notBetter', false,
            'final', CASE WHEN disclosed -> 'final' = 'null' THEN 'null'::jsonb
                          ELSE (disclosed -> 'final') - 'marks' - 'outOf' END,
            'feedback', CASE WHEN disclosed -> 'feedback' = 'null' THEN 'null'::jsonb
                             ELSE (disclosed -> 'feedback') || '{"interval": null, "grid": null}' END) END)
        FROM submission s JOIN exercise e ON e.id = s.exercise_id
       WHERE s.id = receipt.submission_id AND disclosed IS NOT NULL;

      -- Deadlines of single students.
      CREATE TABLE extension (
        exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
        person_id uuid NOT NULL REFERENCES identity.person,
        deadline timestamptz NOT NULL,
        PRIMARY KEY (exercise_id, person_id)
      );
      GRANT SELECT ON extension TO sieve_student, sieve_worker;
      GRANT SELECT, INSERT, UPDATE, DELETE ON extension TO sieve_staff;

      -- The reference runs that keys were computed from; null where they depend on none.
      ALTER TABLE vault.answer_key ADD COLUMN runs jsonb;
      -- Corrected questions whose keys and marks are computed before anything is applied: one at a time.
      CREATE TABLE vault.correction (
        exercise_id uuid PRIMARY KEY REFERENCES exercise ON DELETE CASCADE,
        id uuid NOT NULL UNIQUE,
        revision int NOT NULL,
        notice text NOT NULL,
        state text NOT NULL CHECK (state IN ('waiting', 'ready', 'failed')),
        problem jsonb,
        released jsonb,
        FOREIGN KEY (exercise_id, revision) REFERENCES vault.sheet
      );
      GRANT SELECT, INSERT, UPDATE, DELETE ON vault.correction TO sieve_staff;
      GRANT SELECT, UPDATE ON vault.correction TO sieve_worker;
      GRANT UPDATE ON pack TO sieve_staff;
      -- Marks that staff gave in place of those that were found: the last holds, without marks for none.
      CREATE TABLE vault.adjustment (
        submission_id uuid NOT NULL REFERENCES submission ON DELETE CASCADE,
        number int NOT NULL,
        marks double precision,
        reason text NOT NULL,
        made_by uuid NOT NULL REFERENCES identity.person,
        made_at timestamptz NOT NULL,
        PRIMARY KEY (submission_id, number)
      );
      GRANT SELECT, INSERT ON vault.adjustment TO sieve_staff;
      -- A receipt may be issued again; none is ever changed.
      ALTER TABLE receipt
        ADD COLUMN issue int NOT NULL DEFAULT 1,
        DROP CONSTRAINT receipt_pkey,
        ADD PRIMARY KEY (submission_id, stage, issue);
    `);
    const keys = (await runner.query('SELECT id, key FROM vault.answer_key')) as {
      id: string;
      key: Buffer;
    }[];
    for (const { id, key } of keys) {
      const wrapped = { q1: { key: deserialize(inflateSync(key)) as unknown, about: [] } };
      await runner.query('UPDATE vault.answer_key SET key = $2 WHERE id = $1', [
        id,
        deflateSync(serialize(wrapped)),
      ]);
    }
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Sheets are not taken apart again.'));
  }
}
