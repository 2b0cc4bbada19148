import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How exercises make a total, who is excused from what, sections of a course, and comments on answers. */
export class Gradebook1765200000016 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Students see how their own total comes about.
      CREATE TABLE grade_plan (
        course_id uuid PRIMARY KEY REFERENCES course ON DELETE CASCADE,
        plan jsonb NOT NULL
      );
      CREATE TABLE excused (
        exercise_id uuid NOT NULL REFERENCES exercise ON DELETE CASCADE,
        person_id uuid NOT NULL REFERENCES identity.person ON DELETE CASCADE,
        PRIMARY KEY (exercise_id, person_id)
      );
      ALTER TABLE membership ADD COLUMN section text
        CHECK (section IS NULL OR (length(section) BETWEEN 1 AND 60));
      -- Students read them in their receipts, once the exercise is returned.
      CREATE TABLE vault.comment (
        submission_id uuid NOT NULL REFERENCES submission ON DELETE CASCADE,
        number int NOT NULL,
        text text NOT NULL,
        made_by uuid NOT NULL REFERENCES identity.person,
        made_at timestamptz NOT NULL,
        PRIMARY KEY (submission_id, number)
      );
      GRANT SELECT, INSERT ON vault.comment TO sieve_staff;
      GRANT SELECT ON vault.comment TO sieve_worker;
      GRANT SELECT ON grade_plan, excused TO sieve_student;
      GRANT SELECT, INSERT, UPDATE, DELETE ON grade_plan, excused TO sieve_staff;
      GRANT SELECT, DELETE ON excused TO sieve_identity;
      GRANT UPDATE (section) ON membership TO sieve_identity;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'DROP TABLE vault.comment; DROP TABLE grade_plan; DROP TABLE excused; ALTER TABLE membership DROP COLUMN section',
    );
  }
}
