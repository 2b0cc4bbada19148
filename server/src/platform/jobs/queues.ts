/** What a job of a kind needs to know: identifiers only, never contents. */
export interface JobPayloads {
  import: { readonly importId: string };
  pack: { readonly exerciseId: string };
  check: { readonly submissionId: string };
}
export type JobKind = keyof JobPayloads;

export interface JobPolicy {
  /** Higher is taken up earlier. */
  readonly priority: number;
  /** Time that a job may compute, in seconds; it expires a little later. */
  readonly seconds: number;
  readonly retries: number;
  /** What a person reads after the last failure. */
  readonly lastWord: string;
}

/** Every kind of job. Checking outranks everything else. */
export const JOBS: Readonly<Record<JobKind, JobPolicy>> = {
  check: {
    priority: 30,
    seconds: 60,
    retries: 3,
    lastWord:
      'The check did not finish. Your file is kept and no attempt was used. Hand it in again, or ask your instructor.',
  },
  pack: {
    priority: 20,
    seconds: 120,
    retries: 2,
    lastWord:
      'The pack could not be made. Release the exercise again; if that fails too, the server’s log says more.',
  },
  import: {
    priority: 10,
    seconds: 300,
    retries: 2,
    lastWord: 'The file could not be read in time. Try again, or bring a smaller file.',
  },
};
