import { deserialize, serialize } from 'node:v8';
import { deflateSync, inflateSync } from 'node:zlib';
import { expect, it } from '@jest/globals';
import type { Plan } from '@modest-sieve/core/data';
import { FEEDBACK, FINAL } from '@modest-sieve/core/assessment';
import pg from 'pg';
import { readConfig } from '../src/platform/config/config.js';
import { migrate } from '../src/assembly/migrate.js';
import { asOwner } from './world/world.js';

it('plans and roles that were kept before sentences are put into their form', async () => {
  const config = readConfig();
  await asOwner('CREATE DATABASE sieve_old');
  const url = new URL(config.ownerUrl);
  url.pathname = '/sieve_old';
  const own = { ...config, ownerUrl: url.href };
  await migrate(own, 3);
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  const [person, courseId, set, version, roles] = Array.from(
    { length: 5 },
    (_, i) => `00000000-0000-4000-8000-00000000000${i}`,
  );
  await client.query(`
    INSERT INTO identity.person (id, name, email, password_hash) VALUES ('${person}', 'Old', 'old@test.example', 'x');
    INSERT INTO course (id, name, time_zone, join_code) VALUES ('${courseId}', 'Old', 'UTC', 'old');
    INSERT INTO data_set (id, course_id, name) VALUES ('${set}', '${courseId}', 'Old');
    INSERT INTO vault.file (sha256, size) VALUES ('f', 1);
    INSERT INTO data_set_version (id, data_set_id, number, row_count, profile, file_sha256) VALUES ('${version}', '${set}', 1, 1, '[]', 'f');
    INSERT INTO column_roles (id, version_id, revision, roles, made_by) VALUES ('${roles}', '${version}', 1, '{"target": "y"}', '${person}');
    INSERT INTO split (version_id, roles_id, method, plan, consequences, made_by) VALUES
      ('${version}', '${roles}', 'grouped@1', '{"shares": {"training": 70, "validation": 10, "heldout": 20}, "stratify": null, "group": "g", "seed": 9}', '{"repeated": 0}', '${person}');
  `);
  await migrate(own, 13);
  await client.query(`
    INSERT INTO fold_set (version_id, roles_id, split_id, method, plan, folds, repeats, rows, made_by)
      SELECT version_id, roles_id, s, 'k-fold@1', '{"kind": "draw", "values": {"k": 5}}', 5, 1, 1, made_by
        FROM split, unnest(ARRAY[id, NULL]) s;
  `);
  await migrate(own);
  const folds = await client.query<{ of: string; how: string | null }>(
    `SELECT CASE WHEN split_id IS NULL THEN 'all' ELSE 'training' END AS of, plan #>> '{values,repeatedRows}' AS how
       FROM fold_set ORDER BY 1`,
  );
  // Until then, folds of all rows dropped repeated ones.
  expect(folds.rows).toEqual([
    { of: 'all', how: 'drop' },
    { of: 'training', how: null },
  ]);
  const { rows } = await client.query<{ plan: Plan; consequences: object; roles: object }>(
    'SELECT s.plan, s.consequences, r.roles FROM split s JOIN column_roles r ON r.id = s.roles_id',
  );
  await client.end();
  expect(rows[0]?.plan.kind).toBe('draw');
  expect(rows[0]?.plan.values).toMatchObject({
    training: 70,
    validation: 10,
    heldout: 20,
    stratify: '',
    group: 'g',
    seed: 9,
    repeatedRows: 'drop',
  });
  expect(rows[0]?.consequences).toEqual({ repeated: 0, leftOut: 0 });
  expect(rows[0]?.roles).toEqual({ target: 'y', time: null, weight: null });
  await asOwner('DROP DATABASE sieve_old');
});

it('exercises, keys, results and receipts that were kept before sheets are put into their form', async () => {
  await asOwner('CREATE DATABASE sieve_before_sheets');
  const config = readConfig();
  const url = new URL(config.ownerUrl);
  url.pathname = '/sieve_before_sheets';
  const own = { ...config, ownerUrl: url.href };
  await migrate(own, 5);
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  const [person, course, set, version, roles, split, exercise, submission] = Array.from(
    { length: 8 },
    (_, i) => `00000000-0000-4000-8000-00000000000${i}`,
  );
  const scheme = '{"nothing": 0.5, "most": 0.8, "all": 0.9, "mostMarks": 8, "marks": 10}';
  const final =
    '{"rows": 12, "score": {"value": 0.75}, "interval": null, "others": {}, "grid": null, "residuals": null}';
  await client.query(`
    INSERT INTO identity.person (id, name, email, password_hash) VALUES ('${person}', 'Old', 'old@test.example', 'x');
    INSERT INTO course (id, name, time_zone, join_code) VALUES ('${course}', 'Old', 'UTC', 'old');
    INSERT INTO data_set (id, course_id, name) VALUES ('${set}', '${course}', 'Old');
    INSERT INTO vault.file (sha256, size) VALUES ('f', 1);
    INSERT INTO data_set_version (id, data_set_id, number, row_count, profile, file_sha256) VALUES ('${version}', '${set}', 1, 1, '[]', 'f');
    INSERT INTO column_roles (id, version_id, revision, roles, made_by) VALUES ('${roles}', '${version}', 1, '{"target": "y"}', '${person}');
    INSERT INTO split (id, version_id, roles_id, method, plan, consequences, made_by) VALUES
      ('${split}', '${version}', '${roles}', 'random@1', '{"kind": "draw", "values": {}}', '{}', '${person}');
    INSERT INTO exercise (id, course_id, split_id, title, brief, metric, scheme, attempts, counts, deadline, feedback, state)
      VALUES ('${exercise}', '${course}', '${split}', 'Old', '', 'f1', '${scheme}', 3, 'best', now(), 'rounded', 'returned');
    INSERT INTO pack (exercise_id, zip, sha256, files, rules) VALUES ('${exercise}', '', 's', '[]', '{"identifier": "id", "needs": "labels"}');
    INSERT INTO file (sha256, size) VALUES ('f', 1);
    INSERT INTO submission (id, exercise_id, person_id, number, file_name, file_sha256, idempotency_key, received_at)
      VALUES ('${submission}', '${exercise}', '${person}', 1, 'a.csv', 'f', 'k', now());
    INSERT INTO receipt (submission_id, stage, outcome, disclosed) VALUES
      ('${submission}', 'returned', 'checked', '{"checks": [], "holds": true, "metric": "f1", "feedback": {"rows": 9, "score": 0.8, "rounded": false},
        "final": {"rows": 12, "score": 0.75, "interval": null, "grid": null, "marks": 6.67, "outOf": 10}}');
  `);
  // Both rows are held out, one of them for feedback.
  await client.query('INSERT INTO vault.split_assignment (split_id, parts) VALUES ($1, $2)', [
    split,
    Buffer.of(2, 2),
  ]);
  await client.query(
    `INSERT INTO exercise (course_id, split_id, title, brief, metric, scheme, attempts, counts, deadline, feedback, state)
      VALUES ($1, $2, 'A draft', '', 'f1', $3, 3, 'best', now(), 'rounded', 'draft')`,
    [course, split, scheme],
  );
  const key = { task: 'binary', classes: Int32Array.of(0, 1), feedback: Uint8Array.of(1, 0) };
  const {
    rows: [stored],
  } = await client.query<{ id: string }>(
    `INSERT INTO vault.answer_key (exercise_id, revision, key, audit, seed) VALUES ($1, 1, $2, '[]', 7) RETURNING id`,
    [exercise, deflateSync(serialize(key))],
  );
  await client.query(
    `INSERT INTO vault.result (submission_id, revision, key_id, checker, method, result) VALUES ($1, 1, $2, 2, 'random@1', $3)`,
    [
      submission,
      stored?.id,
      `{"checks": [], "holds": true, "rows": 12, "metric": "f1", "final": ${final}, "feedback": null, "marks": 6.67, "outOf": 10, "derivedLabels": false}`,
    ],
  );
  await migrate(own);
  const one = async (query: string) => (await client.query<Record<string, unknown>>(query)).rows[0];
  const { key: wrapped } =
    (await client.query<{ key: Buffer }>('SELECT key FROM vault.answer_key')).rows[0] ?? {};
  const found = {
    exercise: await one('SELECT marks, late_days, notice FROM exercise'),
    sheet: await one('SELECT questions FROM vault.sheet'),
    pack: await one('SELECT questions FROM pack'),
    result: await one('SELECT result FROM vault.result'),
    receipt: await one('SELECT disclosed FROM receipt'),
    submission: await one('SELECT question, fields FROM submission'),
    secret: await one(
      `SELECT s.algorithm, s.bytes FROM vault.exercise_secret s WHERE exercise_id = '${exercise}'`,
    ),
    draft: await one(
      `SELECT s.algorithm, s.bytes FROM vault.exercise_secret s WHERE exercise_id <> '${exercise}'`,
    ),
    release: await one('SELECT exercise_id, data_set_id, division FROM vault.release'),
  };
  await client.end();
  await asOwner('DROP DATABASE sieve_before_sheets');
  expect(deserialize(inflateSync(wrapped ?? Buffer.alloc(0)))).toEqual({ q1: { key, about: [] } });
  expect(found).toMatchObject({
    exercise: { marks: 10, late_days: 0, notice: '' },
    sheet: { questions: [{ id: 'q1', kind: 'predictions', metric: 'f1', scheme: { most: 0.8 } }] },
    pack: {
      questions: [{ id: 'q1', marks: 10, rules: { identifier: 'id', metric: 'f1' }, example: 'example.csv' }],
    },
    result: {
      result: {
        kind: 'predictions',
        marks: 6.67,
        judged: [],
        scored: { metric: 'f1', final: { rows: 12, steps: null }, feedback: null },
      },
    },
    receipt: {
      disclosed: {
        marks: 6.67,
        outOf: 10,
        scored: { final: { score: 0.75 }, feedback: { score: 0.8, grid: null } },
      },
    },
    submission: { question: 'q1', fields: {} },
    // What was released keeps the seed of its pack; a draft is given a secret.
    secret: { algorithm: 'seed@1' },
    draft: { algorithm: 'hmac-sha256@1' },
    release: { exercise_id: exercise, data_set_id: set },
  });
  expect((found.secret?.bytes as Buffer | undefined)?.readInt32LE(4)).toBe(7);
  expect(found.draft?.bytes).toHaveLength(32);
  expect(Array.from((found.release?.division ?? []) as Buffer).toSorted()).toEqual([FEEDBACK, FINAL]);
});
