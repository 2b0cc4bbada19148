/** What a job of a kind needs to know: identifiers only, never contents. */
export interface JobPayloads {
  import: { readonly courseId: string; readonly importId: string };
  /** With who released it. */
  pack: { readonly courseId: string; readonly exerciseId: string; readonly personId: string };
  sheets: { readonly courseId: string; readonly exerciseId: string; readonly personId: string };
  check: { readonly courseId: string; readonly submissionId: string; readonly personId: string };
  /** A submitted model, in a lane of its own: it may take long, and files of predictions do not wait for it. */
  model: { readonly courseId: string; readonly submissionId: string; readonly personId: string };
  remark: { readonly courseId: string; readonly exerciseId: string; readonly correctionId: string };
  prepare: { readonly courseId: string; readonly preparationId: string };
  trial: { readonly courseId: string; readonly trialId: string };
}
export type JobKind = keyof JobPayloads;

export interface JobPolicy<P> {
  /** Time that a job may compute, in seconds. It expires `EXPIRY_MARGIN` later, and another worker takes it up. */
  readonly seconds: number;
  readonly retries: number;
  /** Jobs of the kind that one worker process runs at a time. */
  readonly atOnce: number;
  /** Jobs of one person, and of one course, that run at a time on all workers together. */
  readonly runningOfPerson: number;
  readonly runningOfCourse: number;
  /** Jobs of the kind that may wait for one course; null where something else bounds them. */
  readonly waiting: number | null;
  /** The job's own identifier, so that there is one job for one thing; null where there may be several in turn. */
  readonly uniqueKey: ((payload: P) => string) | null;
  /** What a person reads after the last failure. */
  readonly lastWord: string;
  /** What a person reads when staff cancelled it. */
  readonly cancelled: string;
}

export const EXPIRY_MARGIN = 5;

const CHECK_WORDS = {
  lastWord:
    'The check did not finish. Your file is kept and no attempt was used. Hand it in again, or ask your instructor.',
  cancelled:
    'The check was cancelled by your course. Your file is kept and no attempt was used. Hand it in again, or ask your instructor.',
} as const;

/**
 * Every kind of job. Each is a lane of its own: workers take its jobs whatever waits in the others, course by course and
 * person by person.
 */
export const JOBS: { readonly [K in JobKind]: JobPolicy<JobPayloads[K]> } = {
  check: {
    seconds: 25,
    retries: 5,
    atOnce: 4,
    runningOfPerson: 2,
    runningOfCourse: 64,
    waiting: null,
    uniqueKey: ({ submissionId }) => submissionId,
    ...CHECK_WORDS,
  },
  model: {
    seconds: 90,
    retries: 3,
    atOnce: 2,
    runningOfPerson: 1,
    runningOfCourse: 8,
    waiting: null,
    uniqueKey: ({ submissionId }) => submissionId,
    ...CHECK_WORDS,
  },
  pack: {
    seconds: 120,
    retries: 2,
    atOnce: 1,
    runningOfPerson: 1,
    runningOfCourse: 1,
    waiting: 20,
    uniqueKey: null,
    lastWord:
      'The pack could not be made. Release the exercise again; if that fails too, the server’s log says more.',
    cancelled: 'The making of the pack was cancelled. Release the exercise again when you are ready.',
  },
  sheets: {
    seconds: 20,
    retries: 5,
    atOnce: 2,
    runningOfPerson: 1,
    runningOfCourse: 16,
    waiting: null,
    uniqueKey: null,
    lastWord: 'Your own figures could not be generated. Open the exercise again.',
    cancelled: 'Your own figures were not generated. Open the exercise again.',
  },
  remark: {
    seconds: 900,
    retries: 2,
    atOnce: 1,
    runningOfPerson: 1,
    runningOfCourse: 1,
    waiting: 20,
    uniqueKey: null,
    lastWord:
      'The answers could not be marked again. Nothing was changed. Compute it again; if that fails too, the server’s log says more.',
    cancelled: 'The marking was cancelled. Nothing was changed.',
  },
  import: {
    seconds: 300,
    retries: 2,
    atOnce: 1,
    runningOfPerson: 1,
    runningOfCourse: 1,
    waiting: 12,
    uniqueKey: ({ importId }) => importId,
    lastWord: 'The file could not be read in time. Try again, or bring a smaller file.',
    cancelled: 'Reading the file was cancelled.',
  },
  prepare: {
    seconds: 300,
    retries: 2,
    atOnce: 1,
    runningOfPerson: 1,
    runningOfCourse: 1,
    waiting: 12,
    uniqueKey: ({ preparationId }) => preparationId,
    lastWord:
      'The version could not be made in time. Keep it again; if that fails too, the server’s log says more.',
    cancelled: 'The making of the version was cancelled. The steps are kept here.',
  },
  trial: {
    seconds: 1800,
    retries: 5,
    atOnce: 1,
    runningOfPerson: 1,
    runningOfCourse: 1,
    waiting: 60,
    uniqueKey: null,
    lastWord:
      'The model could not be tried in time. Try fewer settings or folds; what was measured is not lost if you ask again.',
    cancelled: 'The trial was cancelled.',
  },
};

export const JOB_KINDS = [
  'check',
  'model',
  'sheets',
  'pack',
  'remark',
  'prepare',
  'import',
  'trial',
] as const satisfies readonly JobKind[];
