import { IMPORT_JOB } from '../datasets/import.job.js';
import { PREPARE_JOB } from '../datasets/prepare.job.js';
import { PACK_JOB } from '../exercises/pack.job.js';
import { SHEETS_JOB } from '../exercises/sheets.job.js';
import type { JobKind } from '../platform/jobs/job-kind.js';
import { REGRADE_JOB } from '../released/regrade.job.js';
import { CHECK_JOB, MODEL_JOB } from '../submissions/check.job.js';
import { TRIAL_JOB } from '../trials/trial.job.js';

/** The kinds of job of all features. */
export const ALL_JOB_KINDS: readonly JobKind[] = [
  CHECK_JOB,
  MODEL_JOB,
  SHEETS_JOB,
  PACK_JOB,
  REGRADE_JOB,
  PREPARE_JOB,
  IMPORT_JOB,
  TRIAL_JOB,
];
