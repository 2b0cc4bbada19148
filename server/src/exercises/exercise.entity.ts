import type { FeedbackPolicy, MarkScheme, PackFile, PredictionRules } from '@modest-sieve/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';
import type { ExerciseState } from '../api/api.js';

@Entity('exercise')
export class ExerciseRecord {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid', { name: 'course_id' }) courseId: string;
  @Column('uuid', { name: 'split_id' }) splitId: string;
  /** Folds that go into the pack. */
  @Column('uuid', { name: 'fold_set_id', nullable: true }) foldSetId: string | null;
  @Column('text') title: string;
  @Column('text') brief: string;
  @Column('text') metric: string;
  @Column('jsonb') scheme: MarkScheme;
  @Column('int') attempts: number;
  @Column('text') counts: 'best' | 'last';
  @Column('timestamptz') deadline: Date;
  @Column('text') feedback: FeedbackPolicy;
  @Column('text', { default: 'draft' }) state: ExerciseState;
  @Column('int', { default: 1 }) revision: number;
  @Column('jsonb', { nullable: true }) problem: { code: string; message: string } | null;
  @Column('timestamptz', { name: 'created_at', default: () => 'now()' }) createdAt: Date;
  @Column('timestamptz', { name: 'released_at', nullable: true }) releasedAt: Date | null;
  @Column('timestamptz', { name: 'returned_at', nullable: true }) returnedAt: Date | null;
}

@Entity('pack')
export class PackRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @Column('bytea', { select: false }) zip: Buffer;
  @Column('text') sha256: string;
  @Column('jsonb') files: PackFile[];
  @Column('jsonb') rules: PredictionRules;
}
