import type { EntityManager } from 'typeorm';
import { announce, type Topic } from '../events/announce.js';

/** What a job carries: identifiers only, never contents. Under `personId` whose it is, where it is somebody's. */
export interface JobPayload {
  readonly courseId: string;
  readonly [identifier: string]: string;
}

/** Why a job will not be done, as people read it. */
export interface JobProblem {
  readonly code: string;
  readonly message: string;
  /** What the reader may choose from to go on. */
  readonly choices?: readonly string[];
}

/** A job that failed for the last time, that was cancelled, or whose material makes it impossible. */
export type GivenUp = 'failed' | 'cancelled' | 'refused';

/**
 * A kind of job, declared by the feature whose job it is. Each kind is a lane of its own: workers take its jobs whatever
 * waits in the others, course by course and person by person.
 */
export interface JobKind<P extends JobPayload = JobPayload> {
  readonly name: string;
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
  /** The identifier in the payload that names what the job is about. */
  readonly about: string;
  /** Whether there is one job at most for one subject, or several in turn. */
  readonly isOnce: boolean;
  /** SQL that selects the name of what a job `j` of the queue is about, as staff read it. */
  readonly title: string;
  /** What a person reads after the last failure. */
  readonly lastWord: string;
  /** What a person reads when staff cancelled it. */
  readonly cancelled: string;
  /**
   * Whether an error of the material (`SieveError`) is the answer to who asked, and no failure. Not so where its text
   * could reveal what is held out.
   */
  readonly saysWhy: boolean;
  /**
   * Leaves what the job is about as if it had been asked for and refused, and says why to who waits. Changes nothing that
   * is settled already.
   */
  giveUp(manager: EntityManager, payload: P, problem: JobProblem, how: GivenUp): Promise<void>;
  /** SQL that selects the payload of every subject that waits for a job of the kind; null where nobody waits for long. */
  readonly waitingSubjects: string | null;
}

/** Seconds after its time that a job expires in the queue. */
export const EXPIRY_MARGIN = 5;

/** Every kind of job of the program, injected. */
export const JOB_KINDS = Symbol('kinds of job');

/** For what waits as a row of a table with `state` and `problem`: it is marked as failed, and the pages of the staff look again. */
export const failRow =
  <P extends JobPayload>(table: string, about: string, topic: Topic): JobKind<P>['giveUp'] =>
  async (manager, payload, problem) => {
    await manager.query(
      `UPDATE ${table} SET state = 'failed', problem = $2 WHERE id = $1 AND state = 'waiting'`,
      [payload[about], problem],
    );
    await announce(manager, { courseId: payload.courseId, to: 'staff', about: topic });
  };
