import type { MigrationInterface, QueryRunner } from 'typeorm';
import { giveSecrets, recordReleases } from './0007-releases.js';

/** Secrets of exercises, reserves of data sets, invitations, the administrator, and what bounds a student's files. */
export class Secrets1764500000007 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(EXERCISES);
    await giveSecrets(runner);
    await recordReleases(runner);
    await runner.query(`
      ALTER TABLE exercise DROP COLUMN draw_seed;
      ALTER TABLE vault.answer_key DROP COLUMN seed;`);
    await runner.query(PEOPLE);
    await runner.query(FILES_AND_JOBS);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Secrets are never taken back: restore a back-up instead.'));
  }
}

const EXERCISES = `
  -- What orders, identifiers and variants of an exercise follow from. No student's connection reads it.
  CREATE TABLE vault.exercise_secret (
    exercise_id uuid PRIMARY KEY REFERENCES exercise ON DELETE CASCADE,
    algorithm text NOT NULL,
    bytes bytea NOT NULL
  );
  GRANT SELECT, INSERT ON vault.exercise_secret TO sieve_staff;
  GRANT SELECT ON vault.exercise_secret TO sieve_worker;

  -- Sheets that are a student's own, written by jobs, since only these may read the secret.
  CREATE TABLE own_sheet (
    exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
    person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
    question text NOT NULL,
    sheet jsonb NOT NULL,
    PRIMARY KEY (exercise_id, person_id, question)
  );
  GRANT SELECT ON own_sheet TO sieve_student, sieve_staff;
  GRANT DELETE ON own_sheet TO sieve_staff;
  GRANT SELECT, INSERT, DELETE ON own_sheet TO sieve_worker;

  -- Everything that was ever given to students of a data set, for good: its reserve is what these hold out.
  CREATE TABLE vault.release (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    data_set_id uuid NOT NULL REFERENCES data_set ON DELETE CASCADE,
    split_id uuid NOT NULL REFERENCES split ON DELETE CASCADE,
    exercise_id uuid REFERENCES exercise ON DELETE SET NULL,
    title text NOT NULL,
    -- A byte for each row of the version: 1 for a feedback row, 2 for a final row, 0 for any other.
    division bytea NOT NULL,
    released_at timestamptz NOT NULL DEFAULT now()
  );
  CREATE INDEX release_data_set ON vault.release (data_set_id, released_at);
  CREATE INDEX release_exercise ON vault.release (exercise_id);
  GRANT SELECT ON vault.release TO sieve_staff;
  GRANT SELECT, INSERT ON vault.release TO sieve_worker;

  -- The row of the raw table that each row of a prepared version was: four bytes a row, little-endian.
  CREATE TABLE vault.version_origin (
    version_id uuid PRIMARY KEY REFERENCES data_set_version ON DELETE CASCADE,
    origin bytea NOT NULL
  );
  GRANT SELECT, INSERT ON vault.version_origin TO sieve_staff, sieve_worker;

  -- Why the instructor released a pack of which the audit was not sure.
  ALTER TABLE exercise ADD reason text NOT NULL DEFAULT '', ADD made_by uuid REFERENCES identity.person;

  -- Students need no join code.
  REVOKE SELECT ON course FROM sieve_student;
  GRANT SELECT (id, name, time_zone, created_at) ON course TO sieve_student;
`;

const PEOPLE = `
  ALTER TABLE identity.person
    ADD is_administrator boolean NOT NULL DEFAULT false,
    ADD may_make_courses boolean NOT NULL DEFAULT false,
    ADD deleted_at timestamptz;
  -- Who makes courses already goes on making them.
  UPDATE identity.person p SET may_make_courses = true
   WHERE EXISTS (SELECT 1 FROM membership m WHERE m.person_id = p.id AND m.role = 'instructor');

  CREATE TABLE identity.setting (name text PRIMARY KEY, value text NOT NULL);
  INSERT INTO identity.setting VALUES ('course-makers', 'invited');

  -- By which the first administrator of a server is made.
  CREATE TABLE identity.administrator_link (
    token_hash bytea PRIMARY KEY,
    expires_at timestamptz NOT NULL
  );

  CREATE TABLE identity.invitation (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
    email text NOT NULL CHECK (email = lower(email)),
    name text NOT NULL,
    role text NOT NULL CHECK (role IN ('assistant', 'instructor', 'student')),
    token_hash bytea NOT NULL UNIQUE,
    made_by uuid NOT NULL REFERENCES identity.person,
    created_at timestamptz NOT NULL DEFAULT now(),
    expires_at timestamptz NOT NULL,
    UNIQUE (course_id, email)
  );
  CREATE INDEX invitation_email ON identity.invitation (email);

  -- Students who were removed: no code brings them back, an invitation does.
  CREATE TABLE identity.removed_member (
    course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
    person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (course_id, person_id)
  );

  -- What happened to somebody's account, for the person to read.
  CREATE TABLE identity.account_event (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
    at timestamptz NOT NULL DEFAULT now(),
    text text NOT NULL
  );
  CREATE INDEX account_event_person ON identity.account_event (person_id, id);

  -- What administrators did, and what of a course outlasts its deletion.
  CREATE TABLE identity.server_event (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at timestamptz NOT NULL DEFAULT now(),
    by text NOT NULL,
    text text NOT NULL
  );

  -- Browsers in which somebody has signed in before: failures of others do not keep them out.
  CREATE TABLE identity.device (
    token_hash bytea PRIMARY KEY,
    person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
    used_at timestamptz NOT NULL DEFAULT now()
  );
  CREATE INDEX device_person ON identity.device (person_id);

  -- A link that the administrator's command made is by nobody in the program.
  ALTER TABLE identity.password_link ALTER made_by DROP NOT NULL;
  ALTER TABLE membership ADD joined_by text NOT NULL DEFAULT 'code'
    CHECK (joined_by IN ('code', 'invitation', 'address', 'maker'));

  GRANT SELECT, INSERT, DELETE ON identity.invitation, identity.administrator_link, identity.removed_member,
    identity.device TO sieve_identity;
  GRANT UPDATE (used_at) ON identity.device TO sieve_identity;
  GRANT SELECT, INSERT, DELETE ON identity.account_event TO sieve_identity;
  GRANT SELECT, INSERT ON identity.server_event TO sieve_identity;
  GRANT SELECT, UPDATE ON identity.setting TO sieve_identity;
  GRANT UPDATE (name, email, is_administrator, may_make_courses, deleted_at) ON identity.person TO sieve_identity;
  GRANT DELETE ON course TO sieve_identity;
`;

const FILES_AND_JOBS = `
  -- Files that failed are kept for a day; their checksum stays with the submission.
  ALTER TABLE submission DROP CONSTRAINT submission_file_sha256_fkey;
  CREATE INDEX submission_person ON submission (person_id, exercise_id);
  CREATE INDEX submission_file ON submission (file_sha256);
  GRANT DELETE ON file, file_piece TO sieve_worker;
  GRANT DELETE ON vault.chunk, vault.file TO sieve_worker;
  CREATE INDEX version_chunk_hash ON vault.version_chunk (hash);
  -- Deleting a person takes their work along.
  GRANT SELECT, DELETE ON submission, extension TO sieve_identity;
  GRANT SELECT (id, course_id) ON exercise TO sieve_identity;

  -- When a course, and within it a person, was last served in a lane of jobs: they take turns.
  CREATE TABLE job_turn (
    lane text NOT NULL,
    course_id uuid NOT NULL,
    person_id uuid NOT NULL,
    served_at timestamptz NOT NULL,
    PRIMARY KEY (lane, course_id, person_id)
  );
  GRANT SELECT, INSERT, UPDATE, DELETE ON job_turn TO sieve_worker;
`;
