import type { GradePlan, GradeTotal } from '@modest-sieve/core/assessment';
import type { ExerciseState } from './exercises.js';

// What the HTTP API takes and answers of the gradebook.

/** An exercise as a column of the gradebook. */
export interface GradedExercise {
  readonly id: string;
  readonly title: string;
  /** All marks that it gives. */
  readonly marks: number;
  readonly state: ExerciseState;
  /** When it was released, or opens. */
  readonly opensAt: string;
  readonly deadline: string;
  /** Students with marks, and the mean and the median of these; null where there are none. */
  readonly marked: number;
  readonly mean: number | null;
  readonly median: number | null;
}

/** What a student has of an exercise. */
export interface GradeCell {
  /** After lateness and adjustments; null where nothing counts. */
  readonly marks: number | null;
  /** Percent of its marks that an answer lost for being late, the most that one did; 0 for none. */
  readonly latePercent: number;
  readonly excused: boolean;
}

export interface GradedStudent {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly section: string | null;
  /** One for each exercise. */
  readonly cells: readonly GradeCell[];
  /** Of what is returned. */
  readonly total: GradeTotal;
}

export interface Gradebook {
  readonly plan: GradePlan;
  readonly exercises: readonly GradedExercise[];
  readonly students: readonly GradedStudent[];
}

/** Whether an exercise counts for a student. */
export interface SetExcused {
  readonly excused: boolean;
}

/** The part of the course in which a student is taught; null for none. */
export interface SetSection {
  readonly section: string | null;
}

/** A student's own marks, with what they come to. */
export interface OwnGrades {
  readonly exercises: readonly {
    readonly id: string;
    readonly title: string;
    readonly outOf: number;
    readonly marks: number | null;
    readonly excused: boolean;
  }[];
  readonly total: GradeTotal;
}
