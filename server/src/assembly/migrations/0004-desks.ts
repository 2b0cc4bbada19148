import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Plans of splits as sentences, folds that are kept, roles for time and weight, words about columns. */
export class Desks1764200000004 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      UPDATE split SET
        plan = jsonb_build_object('kind', 'draw', 'values', jsonb_build_object(
          'sized', 'percent',
          'training', plan #> '{shares,training}',
          'validation', plan #> '{shares,validation}',
          'heldout', plan #> '{shares,heldout}',
          'validationRows', 0,
          'heldoutRows', 100,
          'stratify', coalesce(plan ->> 'stratify', ''),
          'group', coalesce(plan ->> 'group', ''),
          'seed', plan -> 'seed')),
        consequences = consequences || '{"leftOut": 0}';
      UPDATE column_roles SET roles = roles || '{"time": null, "weight": null}';

      -- What each column means, in the instructor's words, by its name; the same for all versions.
      ALTER TABLE data_set ADD descriptions jsonb NOT NULL DEFAULT '{}';
      GRANT UPDATE (descriptions) ON data_set TO sieve_staff, sieve_worker;

      -- Which sheet of a workbook, and how a second file is put to the table that is there.
      ALTER TABLE import ADD options jsonb NOT NULL DEFAULT '{}';

      CREATE TABLE fold_set (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        version_id uuid NOT NULL REFERENCES data_set_version ON DELETE CASCADE,
        roles_id uuid NOT NULL REFERENCES column_roles,
        -- The split whose training rows are dealt; null for all rows.
        split_id uuid REFERENCES split ON DELETE CASCADE,
        method text NOT NULL,
        plan jsonb NOT NULL,
        folds int NOT NULL,
        repeats int NOT NULL,
        rows int NOT NULL,
        made_by uuid NOT NULL REFERENCES identity.person,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX fold_set_version ON fold_set (version_id, created_at);
      CREATE TABLE vault.fold_assignment (
        fold_set_id uuid PRIMARY KEY REFERENCES fold_set ON DELETE CASCADE,
        folds bytea NOT NULL
      );
      ALTER TABLE exercise ADD fold_set_id uuid REFERENCES fold_set;

      GRANT SELECT ON fold_set, vault.fold_assignment TO sieve_staff, sieve_worker;
      GRANT INSERT ON fold_set, vault.fold_assignment TO sieve_staff;
    `);
  }

  down(): Promise<void> {
    return Promise.reject(new Error('Plans are never put back into their old form.'));
  }
}
