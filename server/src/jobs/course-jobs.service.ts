import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { JobInfo } from '../api/api.js';
import { note } from '../audit/note.js';
import type { Caller } from '../platform/access/access.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { ABANDON } from '../platform/jobs/abandon.js';
import { JOBS, type JobKind, type JobPayloads } from '../platform/jobs/queues.js';

const MOST = 200;
const GONE = 'something deleted';

/** The states of the queue in our words. */
const STATE = `CASE j.state::text WHEN 'created' THEN 'waiting' WHEN 'active' THEN 'running' WHEN 'retry' THEN 'trying again'
  WHEN 'completed' THEN 'done' ELSE j.state::text END`;

const JOB = `
  SELECT j.id, j.name AS kind, j.data, ${STATE} AS state, j.created_on AS "createdAt", j.started_on AS "startedAt",
         j.completed_on AS "endedAt", j.retry_count + (j.started_on IS NOT NULL)::int AS tries,
         CASE replace(j.name, 'model', 'check')
           WHEN 'import' THEN (SELECT file_name FROM import WHERE id = (j.data ->> 'importId')::uuid)
           WHEN 'prepare' THEN (SELECT d.name FROM preparation p JOIN data_set d ON d.id = p.data_set_id
                                 WHERE p.id = (j.data ->> 'preparationId')::uuid)
           WHEN 'trial' THEN (SELECT d.name FROM vault.trial t JOIN fold_set f ON f.id = t.fold_set_id
                                JOIN data_set_version v ON v.id = f.version_id JOIN data_set d ON d.id = v.data_set_id
                               WHERE t.id = (j.data ->> 'trialId')::uuid)
           WHEN 'remark' THEN (SELECT title FROM exercise WHERE id = (j.data ->> 'exerciseId')::uuid)
           WHEN 'sheets' THEN (SELECT title FROM exercise WHERE id = (j.data ->> 'exerciseId')::uuid)
           WHEN 'pack' THEN (SELECT title FROM exercise WHERE id = (j.data ->> 'exerciseId')::uuid)
           WHEN 'check' THEN (SELECT format('%s, file %s of %s', e.title, s.number, p.name)
                                FROM submission s JOIN exercise e ON e.id = s.exercise_id
                                JOIN identity.person p ON p.id = s.person_id
                               WHERE s.id = (j.data ->> 'submissionId')::uuid)
         END AS subject,
         CASE WHEN g.job_id IS NULL OR j.state <> 'active' THEN NULL
              ELSE jsonb_build_object('what', g.what, 'done', g.done, 'total', g.total) END AS progress
    FROM pgboss.job j LEFT JOIN job_progress g ON g.job_id = j.id
   WHERE j.data ->> 'courseId' = $1`;

type JobRow = {
  [K in JobKind]: Omit<JobInfo, 'kind' | 'subject'> & {
    kind: K;
    subject: string | null;
    data: JobPayloads[K];
  };
}[JobKind];

/** What the program does for a course in the background, as its staff see it. */
@Injectable()
export class CourseJobs {
  /** The latest jobs, those under way first. */
  async list(caller: Caller): Promise<JobInfo[]> {
    const rows: JobRow[] = await caller.db.query(
      `${JOB} ORDER BY j.state IN ('created', 'retry', 'active') DESC, j.created_on DESC LIMIT ${MOST}`,
      [caller.courseId],
    );
    return rows.map(({ id, kind, subject, state, createdAt, startedAt, endedAt, tries, progress }) => ({
      id,
      kind,
      subject: subject ?? GONE,
      state,
      createdAt,
      startedAt,
      endedAt,
      tries,
      progress,
    }));
  }

  /** Ends a job that is not done yet. Clients that wait for it are told, and the worker that runs it stops. */
  cancel(caller: Caller, id: string): Promise<void> {
    return caller.db.transaction(async (manager) => {
      const [job]: JobRow[] = await manager.query(`${JOB} AND j.id = $2`, [caller.courseId, id]);
      if (!job) throw notFound();
      const [, cancelled]: [unknown, number] = await manager.query(
        `UPDATE pgboss.job SET state = 'cancelled', completed_on = now()
          WHERE id = $1 AND name = $2 AND state IN ('created', 'retry', 'active')`,
        [id, job.kind],
      );
      if (cancelled !== 1) throw conflict('job-ended', 'This job has ended already.');
      await abandon(manager, job);
      await note(manager, caller, 'job cancelled', job.subject ?? GONE, { kind: job.kind });
    });
  }
}

function abandon(manager: EntityManager, job: JobRow): Promise<void> {
  const words = { code: 'cancelled', message: JOBS[job.kind].cancelled };
  switch (job.kind) {
    case 'check':
    case 'model':
      return ABANDON.check(manager, job.data, words);
    case 'pack':
      return ABANDON.pack(manager, job.data, words);
    case 'sheets':
      return ABANDON.sheets(manager, job.data, words);
    case 'remark':
      return ABANDON.remark(manager, job.data, words);
    case 'prepare':
      return ABANDON.prepare(manager, job.data, words);
    case 'import':
      return ABANDON.import(manager, job.data, words);
    case 'trial':
      return ABANDON.trial(manager, job.data, words);
  }
}
