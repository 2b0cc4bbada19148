import { randomBytes } from 'node:crypto';
import { deserialize } from 'node:v8';
import { inflateSync } from 'node:zlib';
import { keyedRandom, shuffle, type Secret } from '@modest-sieve/core/foundation';
import { FEEDBACK, FINAL } from '@modest-sieve/core/assessment';
import type { QueryRunner } from 'typeorm';

interface Released {
  readonly id: string;
  readonly state: string;
  readonly title: string;
  readonly released_at: Date | null;
  readonly draw_seed: number;
  readonly seed: number | null;
  readonly key: Buffer | null;
  readonly split_id: string;
  readonly data_set_id: string;
  readonly parts: Buffer;
}

const allExercises = (runner: QueryRunner): Promise<Released[]> =>
  runner.query(`
    SELECT e.id, e.state, e.title, e.released_at, e.draw_seed, k.seed, k.key, e.split_id, v.data_set_id, a.parts
      FROM exercise e JOIN split s ON s.id = e.split_id JOIN data_set_version v ON v.id = s.version_id
      JOIN vault.split_assignment a ON a.split_id = s.id
      LEFT JOIN vault.answer_key k ON k.exercise_id = e.id AND k.revision = e.revision
     ORDER BY e.released_at`) as Promise<Released[]>;

/** What was released keeps what its seeds generated; drafts get a secret. */
export async function giveSecrets(runner: QueryRunner): Promise<void> {
  for (const exercise of await allExercises(runner)) {
    const { algorithm, bytes } = secretOf(exercise);
    await runner.query(
      'INSERT INTO vault.exercise_secret (exercise_id, algorithm, bytes) VALUES ($1, $2, $3)',
      [exercise.id, algorithm, Buffer.from(bytes)],
    );
  }
}

function secretOf({ draw_seed: variants, seed: pack }: Released): Secret {
  if (pack === null) return { algorithm: 'hmac-sha256@1', bytes: randomBytes(32) };
  const bytes = Buffer.alloc(8);
  bytes.writeInt32LE(variants, 0);
  bytes.writeInt32LE(pack, 4);
  return { algorithm: 'seed@1', bytes };
}

/** Exercises that students have become the first releases of their data sets, with the division that each had. */
export async function recordReleases(runner: QueryRunner): Promise<void> {
  for (const exercise of await allExercises(runner)) {
    if (exercise.state !== 'released' && exercise.state !== 'returned') continue;
    await runner.query(
      `INSERT INTO vault.release (data_set_id, split_id, exercise_id, title, division, released_at)
         VALUES ($1, $2, $3, $4, $5, coalesce($6, now()))`,
      [
        exercise.data_set_id,
        exercise.split_id,
        exercise.id,
        exercise.title,
        divisionOf(exercise),
        exercise.released_at,
      ],
    );
  }
}

/** The division that the key of predictions has; rows that nothing divided are divided at the next release. */
function divisionOf(exercise: Released): Buffer {
  const parts = new Int8Array(exercise.parts);
  const division = Buffer.alloc(parts.length);
  const feedback = exercise.key === null ? null : feedbackIn(exercise.key);
  if (feedback?.includes(1) !== true) return division;
  const rows = Int32Array.from(parts.keys()).filter((row) => parts[row] === 2);
  shuffle(rows, keyedRandom(secretOf(exercise), { what: 'held-out order' })).forEach((row, place) => {
    division[row] = feedback[place] === 1 ? FEEDBACK : FINAL;
  });
  return division;
}

function feedbackIn(packed: Buffer): Uint8Array | null {
  const keys = deserialize(inflateSync(packed)) as Record<string, { key: { feedback?: Uint8Array } }>;
  return Object.values(keys).find(({ key }) => key.feedback !== undefined)?.key.feedback ?? null;
}
