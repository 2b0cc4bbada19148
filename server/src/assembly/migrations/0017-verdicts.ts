import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What staff say of mistakes that were found in answers, and comments on all of a student's answers to an exercise. */
export class Verdicts1765300000017 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE vault.slip_verdict (
        submission_id uuid NOT NULL REFERENCES submission ON DELETE CASCADE,
        number int NOT NULL,
        slip text NOT NULL,
        field text,
        verdict text NOT NULL CHECK (verdict IN ('dismissed', 'named', 'undone')),
        made_by uuid NOT NULL REFERENCES identity.person,
        made_at timestamptz NOT NULL,
        PRIMARY KEY (submission_id, number)
      );
      -- What students may read is written at the return; until then the text is empty.
      CREATE TABLE remark (
        exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
        person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        text text NOT NULL DEFAULT '',
        PRIMARY KEY (exercise_id, person_id)
      );
      CREATE TABLE vault.remark (
        exercise_id uuid NOT NULL,
        person_id uuid NOT NULL,
        number int NOT NULL,
        text text NOT NULL,
        made_by uuid NOT NULL REFERENCES identity.person,
        made_at timestamptz NOT NULL,
        PRIMARY KEY (exercise_id, person_id, number),
        FOREIGN KEY (exercise_id, person_id) REFERENCES remark ON DELETE CASCADE
      );
      GRANT SELECT, INSERT ON vault.slip_verdict, vault.remark TO sieve_staff;
      GRANT SELECT ON remark TO sieve_student;
      GRANT SELECT, INSERT, UPDATE ON remark TO sieve_staff;
      GRANT SELECT, DELETE ON remark TO sieve_identity;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE vault.remark; DROP TABLE remark; DROP TABLE vault.slip_verdict');
  }
}
