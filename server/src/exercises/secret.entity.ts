import { randomBytes } from 'node:crypto';
import { SECRET_BYTES, type Secret } from '@modest-sieve/core/foundation';
import { Column, Entity, PrimaryColumn, type EntityManager } from 'typeorm';
import type { QuestionSheet } from '../api/api.js';

/** What everything unpredictable in an exercise follows from, in `vault`: no student's connection reads it. */
@Entity({ schema: 'vault', name: 'exercise_secret' })
export class ExerciseSecretRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('text') algorithm: Secret['algorithm'];
  @Column('bytea') bytes: Buffer;
}

/** A student's own sheet of a question, as a job generated it from the secret. */
@Entity('own_sheet')
export class OwnSheetRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @PrimaryColumn('uuid', { name: 'person_id' }) personId: string;
  @PrimaryColumn('text') question: string;
  @Column('jsonb') sheet: QuestionSheet;
}

/** Gives a new exercise its secret. */
export async function keepNewSecret(manager: EntityManager, exerciseId: string): Promise<void> {
  await manager.insert(ExerciseSecretRecord, {
    exerciseId,
    algorithm: 'hmac-sha256@1',
    bytes: randomBytes(SECRET_BYTES),
  });
}

/** The secret of an exercise; only connections of staff and of jobs may read it. */
export async function secretOf(db: EntityManager, exerciseId: string): Promise<Secret> {
  const { algorithm, bytes } = await db.findOneByOrFail(ExerciseSecretRecord, { exerciseId });
  return { algorithm, bytes: new Uint8Array(bytes) };
}
