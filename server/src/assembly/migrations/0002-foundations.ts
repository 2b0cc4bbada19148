import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Assistants, tokens, one-time links, limits, codes that expire, and the trail of what staff did. */
export class Foundations1764000000002 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE membership DROP CONSTRAINT membership_role_check;
      ALTER TABLE membership ADD CONSTRAINT membership_role_check
        CHECK (role IN ('instructor', 'assistant', 'student'));

      ALTER TABLE course ADD join_code_expires_at timestamptz NOT NULL DEFAULT now() + interval '120 days';

      -- Somebody whom a roster brought has no password until they follow their link.
      ALTER TABLE identity.person ALTER password_hash DROP NOT NULL;
      CREATE INDEX session_person ON identity.session (person_id);

      CREATE TABLE identity.token (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        name text NOT NULL,
        scopes text[] NOT NULL,
        token_hash bytea NOT NULL UNIQUE,
        created_at timestamptz NOT NULL DEFAULT now(),
        expires_at timestamptz NOT NULL,
        last_used_at timestamptz
      );
      CREATE INDEX token_person ON identity.token (person_id);

      CREATE TABLE identity.password_link (
        token_hash bytea PRIMARY KEY,
        person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        made_by uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        created_at timestamptz NOT NULL DEFAULT now(),
        expires_at timestamptz NOT NULL
      );

      -- The columns are those that rate-limiter-flexible reads and writes.
      CREATE TABLE identity.rate_limit (
        key varchar(255) PRIMARY KEY,
        points integer NOT NULL DEFAULT 0,
        expire bigint
      );

      CREATE TABLE audit_event (
        id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
        course_id uuid NOT NULL REFERENCES course ON DELETE CASCADE,
        at timestamptz NOT NULL DEFAULT now(),
        person_id uuid NOT NULL REFERENCES identity.person,
        action text NOT NULL,
        subject text NOT NULL,
        detail jsonb NOT NULL
      );
      CREATE INDEX audit_event_course ON audit_event (course_id, id);

      -- How far a running job is; the row goes with its job's end.
      CREATE TABLE job_progress (
        job_id uuid PRIMARY KEY,
        what text NOT NULL,
        done int NOT NULL,
        total int NOT NULL,
        at timestamptz NOT NULL DEFAULT now()
      );

      GRANT SELECT ON job_progress TO sieve_staff;
      GRANT SELECT, INSERT, UPDATE, DELETE ON job_progress TO sieve_worker;
      GRANT UPDATE (state, problem) ON import TO sieve_staff;

      GRANT UPDATE (password_hash) ON identity.person TO sieve_identity;
      GRANT SELECT, INSERT, DELETE ON identity.token, identity.password_link TO sieve_identity;
      GRANT UPDATE (last_used_at) ON identity.token TO sieve_identity;
      GRANT SELECT, INSERT, UPDATE, DELETE ON identity.rate_limit TO sieve_identity;
      GRANT UPDATE (join_code, join_code_expires_at) ON course TO sieve_identity;
      GRANT UPDATE (role), DELETE ON membership TO sieve_identity;
      GRANT INSERT, SELECT ON audit_event TO sieve_identity, sieve_staff;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Migrations are not taken back: restore a back-up instead.'));
  }
}
