import { latePercentOf, type AttemptPolicy } from '@modest-sieve/core/assessment';
import type { EntityManager } from 'typeorm';
import { ExtensionRecord, type ExerciseRecord } from './exercise.entity.js';

/** The deadlines of single students, by person. */
export async function extensionsOf(db: EntityManager, exerciseId: string): Promise<Map<string, Date>> {
  const found = await db.findBy(ExtensionRecord, { exerciseId });
  return new Map(found.map(({ personId, deadline }) => [personId, deadline]));
}

/** The policy of an exercise for a student. */
export const attemptPolicy = (
  { attempts, perDay, deadline, graceMinutes, latePercent, lateDays }: ExerciseRecord,
  own: Date | undefined,
): AttemptPolicy => ({
  attempts,
  perDay,
  deadline: (own ?? deadline).getTime(),
  graceMinutes,
  latePercent,
  lateDays,
});

/** Percent of the marks that an answer loses for being late. */
export const lateness = (exercise: ExerciseRecord, own: Date | undefined, receivedAt: Date): number =>
  latePercentOf(attemptPolicy(exercise, own), receivedAt.getTime());
