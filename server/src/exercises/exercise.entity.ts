import { createHash } from 'node:crypto';
import type { FeedbackPolicy, PackFile, ReleasedQuestion, SlipPolicy } from '@modest-sieve/core/assessment';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn, type EntityManager } from 'typeorm';
import type { ExerciseState } from '../api/api.js';

@Entity('exercise')
export class ExerciseRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('uuid', { name: 'split_id' }) splitId: string;
  /** Folds that go into the pack. */
  @Column('uuid', { name: 'fold_set_id', nullable: true }) foldSetId: string | null;
  /** Whether the pack has random identifiers. */
  @Column('boolean') reissued: boolean;
  @Column('text') title: string;
  @Column('text') brief: string;
  /** Of all questions. */
  @Column('double precision') marks: number;
  @Column('int') attempts: number;
  @Column('int', { name: 'per_day', nullable: true }) perDay: number | null;
  @Column('text') counts: 'best' | 'last';
  @Column('timestamptz', { name: 'opens_at', nullable: true }) opensAt: Date | null;
  @Column('timestamptz') deadline: Date;
  @Column('int', { name: 'grace_minutes' }) graceMinutes: number;
  @Column('double precision', { name: 'late_percent' }) latePercent: number;
  @Column('int', { name: 'late_days' }) lateDays: number;
  @Column('text') feedback: FeedbackPolicy;
  @Column('text', { default: 'after-return' }) slips: SlipPolicy;
  /** What students read of changes after the release. */
  @Column('text', { default: '' }) notice: string;
  /** Why it is released although the audit of its pack was not sure; empty for none. */
  @Column('text', { default: '' }) reason: string;
  @Column('uuid', { name: 'made_by', nullable: true }) madeBy: string | null;
  @Column('text', { default: 'draft' }) state: ExerciseState;
  @Column('int', { default: 1 }) revision: number;
  @Column('jsonb', { nullable: true }) problem: { code: string; message: string } | null;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
  @Column('timestamptz', { name: 'released_at', nullable: true }) releasedAt: Date | null;
  /** When it was returned last; it stays where the exercise is reopened, for students have seen its final figures. */
  @Column('timestamptz', { name: 'returned_at', nullable: true }) returnedAt: Date | null;
}

@Entity('pack')
export class PackRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('bytea', { select: false }) zip: Buffer;
  @Column('text') sha256: string;
  @Column('jsonb') files: PackFile[];
  @Column('jsonb') questions: ReleasedQuestion[];
}

/** An exercise as it is once no check that is under way keeps anything of it; none does until the transaction ends. */
export const lockedExercise = (manager: EntityManager, id: string): Promise<ExerciseRecord> =>
  manager.findOneOrFail(ExerciseRecord, { where: { id }, lock: { mode: 'pessimistic_write' } });

/** An archive as the columns of its pack. */
export const zipped = (archive: Uint8Array): Pick<PackRecord, 'zip' | 'sha256'> => {
  const zip = Buffer.from(archive);
  return { zip, sha256: createHash('sha256').update(zip).digest('hex') };
};

/** A deadline of a single student. */
@Entity('extension')
export class ExtensionRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @PrimaryColumn('uuid', { name: 'person_id' }) personId: string;
  @Column('timestamptz') deadline: Date;
}
