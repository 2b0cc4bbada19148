import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Tables of the first path: people, courses, data sets, splits, exercises, submissions; answers in `vault`. */
export class ThePath1763900000001 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE SCHEMA identity;
      CREATE SCHEMA vault;

      CREATE TABLE identity.person (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        email text NOT NULL UNIQUE CHECK (email = lower(email)),
        name text NOT NULL,
        password_hash text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE TABLE identity.session (
        token_hash bytea PRIMARY KEY,
        person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        created_at timestamptz NOT NULL DEFAULT now(),
        expires_at timestamptz NOT NULL
      );

      CREATE TABLE course (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        name text NOT NULL,
        time_zone text NOT NULL,
        join_code text NOT NULL UNIQUE,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE TABLE membership (
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        role text NOT NULL CHECK (role IN ('instructor', 'student')),
        joined_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (course_id, person_id)
      );
      CREATE INDEX membership_person ON membership (person_id);

      CREATE TABLE vault.file (
        sha256 text PRIMARY KEY,
        size bigint NOT NULL
      );
      CREATE TABLE vault.file_piece (
        sha256 text NOT NULL REFERENCES vault.file ON DELETE CASCADE,
        number int NOT NULL,
        bytes bytea NOT NULL,
        PRIMARY KEY (sha256, number)
      );
      CREATE TABLE vault.chunk (
        hash text PRIMARY KEY,
        bytes bytea NOT NULL
      );

      CREATE TABLE data_set (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        name text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE TABLE data_set_version (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        data_set_id uuid NOT NULL REFERENCES data_set ON DELETE CASCADE,
        number int NOT NULL,
        row_count int NOT NULL,
        profile jsonb NOT NULL,
        dialect jsonb NOT NULL,
        file_sha256 text NOT NULL REFERENCES vault.file,
        created_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (data_set_id, number)
      );
      CREATE TABLE vault.version_chunk (
        version_id uuid NOT NULL REFERENCES data_set_version ON DELETE CASCADE,
        column_number int NOT NULL,
        chunk_number int NOT NULL,
        hash text NOT NULL REFERENCES vault.chunk,
        PRIMARY KEY (version_id, column_number, chunk_number)
      );
      CREATE TABLE column_roles (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        version_id uuid NOT NULL REFERENCES data_set_version ON DELETE CASCADE,
        revision int NOT NULL,
        roles jsonb NOT NULL,
        made_by uuid NOT NULL REFERENCES identity.person,
        created_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (version_id, revision)
      );
      CREATE TABLE import (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        file_name text NOT NULL,
        file_sha256 text NOT NULL REFERENCES vault.file,
        state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'failed')),
        problem jsonb,
        data_set_id uuid REFERENCES data_set ON DELETE SET NULL,
        created_at timestamptz NOT NULL DEFAULT now()
      );

      CREATE TABLE split (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        version_id uuid NOT NULL REFERENCES data_set_version ON DELETE CASCADE,
        roles_id uuid NOT NULL REFERENCES column_roles,
        method text NOT NULL,
        plan jsonb NOT NULL,
        consequences jsonb NOT NULL,
        made_by uuid NOT NULL REFERENCES identity.person,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE TABLE vault.split_assignment (
        split_id uuid PRIMARY KEY REFERENCES split ON DELETE CASCADE,
        parts bytea NOT NULL
      );

      CREATE TABLE exercise (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        split_id uuid NOT NULL REFERENCES split,
        title text NOT NULL,
        brief text NOT NULL,
        metric text NOT NULL,
        scheme jsonb NOT NULL,
        attempts int NOT NULL,
        counts text NOT NULL CHECK (counts IN ('best', 'last')),
        deadline timestamptz NOT NULL,
        feedback text NOT NULL CHECK (feedback IN ('after-return', 'rounded')),
        state text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'packing', 'released', 'returned')),
        revision int NOT NULL DEFAULT 1,
        problem jsonb,
        created_at timestamptz NOT NULL DEFAULT now(),
        released_at timestamptz,
        returned_at timestamptz
      );
      CREATE TABLE pack (
        exercise_id uuid PRIMARY KEY REFERENCES exercise ON DELETE CASCADE,
        zip bytea NOT NULL,
        sha256 text NOT NULL,
        files jsonb NOT NULL,
        rules jsonb NOT NULL
      );
      CREATE TABLE vault.answer_key (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
        revision int NOT NULL,
        key bytea NOT NULL,
        audit jsonb NOT NULL,
        seed int NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (exercise_id, revision)
      );

      CREATE TABLE file (
        sha256 text PRIMARY KEY,
        size bigint NOT NULL
      );
      CREATE TABLE file_piece (
        sha256 text NOT NULL REFERENCES file ON DELETE CASCADE,
        number int NOT NULL,
        bytes bytea NOT NULL,
        PRIMARY KEY (sha256, number)
      );
      CREATE TABLE submission (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
        person_id uuid NOT NULL REFERENCES identity.person,
        number int NOT NULL,
        file_name text NOT NULL,
        file_sha256 text NOT NULL REFERENCES file,
        idempotency_key text NOT NULL,
        received_at timestamptz NOT NULL,
        UNIQUE (exercise_id, person_id, number),
        UNIQUE (exercise_id, person_id, idempotency_key)
      );
      CREATE TABLE vault.result (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        submission_id uuid NOT NULL REFERENCES submission ON DELETE CASCADE,
        revision int NOT NULL,
        key_id uuid NOT NULL REFERENCES vault.answer_key,
        checker int NOT NULL,
        method text NOT NULL,
        result jsonb NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (submission_id, revision, key_id, checker, method)
      );
      CREATE TABLE receipt (
        submission_id uuid NOT NULL REFERENCES submission ON DELETE CASCADE,
        stage text NOT NULL CHECK (stage IN ('open', 'returned')),
        outcome text NOT NULL CHECK (outcome IN ('checked', 'refused', 'failed')),
        disclosed jsonb,
        problem text,
        created_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (submission_id, stage)
      );

      REVOKE ALL ON SCHEMA public FROM PUBLIC;
      GRANT USAGE ON SCHEMA public TO sieve_identity, sieve_student, sieve_staff, sieve_worker;
      GRANT USAGE ON SCHEMA identity TO sieve_identity, sieve_staff;
      GRANT USAGE ON SCHEMA vault TO sieve_staff, sieve_worker;

      GRANT SELECT, INSERT ON identity.person TO sieve_identity;
      GRANT SELECT, INSERT, DELETE ON identity.session TO sieve_identity;
      GRANT SELECT, INSERT ON course, membership TO sieve_identity;
      GRANT SELECT (id, name, email) ON identity.person TO sieve_staff;

      GRANT SELECT ON course, exercise, pack TO sieve_student;
      GRANT SELECT, INSERT ON file, file_piece, submission TO sieve_student;
      GRANT SELECT ON receipt TO sieve_student;

      GRANT SELECT ON ALL TABLES IN SCHEMA public, vault TO sieve_staff, sieve_worker;
      GRANT INSERT ON data_set, column_roles, import, split, exercise, receipt,
        vault.file, vault.file_piece, vault.split_assignment TO sieve_staff;
      GRANT UPDATE ON exercise TO sieve_staff;
      GRANT DELETE ON import, exercise TO sieve_staff;
      GRANT INSERT ON data_set, data_set_version, pack, receipt,
        vault.chunk, vault.version_chunk, vault.answer_key, vault.result TO sieve_worker;
      GRANT UPDATE ON import, exercise TO sieve_worker;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('The first migration is not taken back: drop the database instead.'));
  }
}
