import { Inject, Injectable } from '@nestjs/common';
import type { JobInfo } from '../api/api.js';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { JOB_KINDS, type JobKind, type JobPayload } from '../platform/jobs/job-kind.js';
import { Jobs } from '../platform/jobs/jobs.service.js';
import { UNDER_WAY } from '../platform/jobs/orphans.js';

const MOST = 200;
const GONE = 'something deleted';

/** The states of the queue in our words. */
const STATE = `CASE j.state::text WHEN 'created' THEN 'waiting' WHEN 'active' THEN 'running' WHEN 'retry' THEN 'trying again'
  WHEN 'completed' THEN 'done' ELSE j.state::text END`;

interface JobRow extends Omit<JobInfo, 'kind' | 'subject'> {
  readonly kind: string;
  readonly subject: string | null;
  readonly data: JobPayload;
}

/** Jobs of the kinds that there are: queues of earlier versions may hold others. */
const jobSql = (kinds: readonly JobKind[]): string => `
  SELECT j.id, j.name AS kind, j.data, ${STATE} AS state, j.created_on AS "createdAt", j.started_on AS "startedAt",
         j.completed_on AS "endedAt", j.retry_count + (j.started_on IS NOT NULL)::int AS tries,
         CASE j.name ${kinds.map(({ name, title }) => `WHEN '${name}' THEN (${title})`).join('\n           ')} END AS subject,
         CASE WHEN g.job_id IS NULL OR j.state <> 'active' THEN NULL
              ELSE jsonb_build_object('what', g.what, 'done', g.done, 'total', g.total) END AS progress
    FROM pgboss.job j LEFT JOIN job_progress g ON g.job_id = j.id
   WHERE j.data ->> 'courseId' = $1 AND j.name IN (${kinds.map(({ name }) => `'${name}'`).join(', ')})`;

/** What the program does for a course in the background, as its staff see it. */
@Injectable()
export class CourseJobs {
  private readonly sql: string;

  constructor(
    private readonly jobs: Jobs,
    @Inject(JOB_KINDS) private readonly kinds: readonly JobKind[],
  ) {
    this.sql = jobSql(kinds);
  }

  /** The latest jobs, those under way first. */
  async list(caller: Caller): Promise<JobInfo[]> {
    const rows: JobRow[] = await caller.db.query(
      `${this.sql} ORDER BY j.state IN ${UNDER_WAY} DESC, j.created_on DESC LIMIT ${MOST}`,
      [caller.courseId],
    );
    return rows.map(({ id, kind, subject, state, createdAt, startedAt, endedAt, tries, progress }) => ({
      id,
      state,
      createdAt,
      startedAt,
      endedAt,
      tries,
      progress,
      // The kinds of the program are those that its API names.
      kind: kind as JobInfo['kind'],
      subject: subject ?? GONE,
    }));
  }

  /** Ends a job that is not done yet. Clients that wait for it are notified, and the worker that runs it stops. */
  cancel(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const [job]: JobRow[] = await manager.query(`${this.sql} AND j.id = $2`, [caller.courseId, id]);
      const kind = job && this.kinds.find(({ name }) => name === job.kind);
      if (!kind) throw notFound();
      if (!(await this.jobs.cancel(manager, kind, id)))
        throw conflict('job-ended', 'This job has ended already.');
      await kind.giveUp(manager, job.data, { code: 'cancelled', message: kind.cancelled }, 'cancelled');
      await note(manager, caller, 'job cancelled', job.subject ?? GONE, { kind: kind.name });
    });
  }
}
