import type { GradePlan } from '@modest-sieve/core/assessment';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** How the exercises of a course make a total. */
@Entity('grade_plan')
export class GradePlanRecord {
  @PrimaryColumn('uuid', { name: 'course_id' }) courseId: string;
  @Column('jsonb') plan: GradePlan;
}

/** That an exercise does not count for a student. */
@Entity('excused')
export class ExcusedRecord {
  @PrimaryColumn('uuid', { name: 'exercise_id' }) exerciseId: string;
  @PrimaryColumn('uuid', { name: 'person_id' }) personId: string;
}
