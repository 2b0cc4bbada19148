import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Checks that did not finish can be done again: only the note that says so is taken away, never a receipt. */
export class CheckAgain1765400000018 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE FUNCTION take_unfinished(of_exercise uuid, one uuid)
        RETURNS TABLE (id uuid, person_id uuid, question text)
        LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
          DELETE FROM receipt r USING submission s
           WHERE r.submission_id = s.id AND r.outcome = 'failed' AND s.exercise_id = of_exercise
             AND (one IS NULL OR s.id = one)
          RETURNING s.id, s.person_id, s.question
        $$;
      REVOKE ALL ON FUNCTION take_unfinished FROM PUBLIC;
      GRANT EXECUTE ON FUNCTION take_unfinished TO sieve_staff;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP FUNCTION take_unfinished');
  }
}
