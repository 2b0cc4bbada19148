import { counted, shortNumber } from '../../foundation/numbers.js';

/** When and how often answers to a question are taken. Times are milliseconds since 1970. */
export interface AttemptPolicy {
  /** For each question, in all. */
  readonly attempts: number;
  /** For each question on one day of the course's time zone; null for no such limit. */
  readonly perDay: number | null;
  /** Of the student who asks, extensions included. */
  readonly deadline: number;
  /** Minutes for which a deadline that has passed is still kept. */
  readonly graceMinutes: number;
  /** Percent of the marks that each day begun after the grace costs. */
  readonly latePercent: number;
  /** Days for which late answers are taken; 0 for none. */
  readonly lateDays: number;
}

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

/** Days begun since deadline and grace ran out; 0 where it is in time. */
export function daysLate({ deadline, graceMinutes }: AttemptPolicy, at: number): number {
  const late = at - deadline - graceMinutes * MINUTE;
  return late <= 0 ? 0 : Math.ceil(late / DAY);
}

/** Percent of the marks that lateness costs, at most all of them. */
export const latePercentOf = (policy: AttemptPolicy, at: number): number =>
  Math.min(100, daysLate(policy, at) * policy.latePercent);

/** Marks less what lateness costs, to two places. */
export const marksLessLate = (marks: number, percent: number): number =>
  Math.round(marks * (100 - percent) + 1e-9) / 100;

/** Why an answer is not taken; null where it is. */
export interface Refused {
  readonly code: 'deadline-passed' | 'no-attempts' | 'no-attempts-today';
  readonly message: string;
}

/**
 * Whether an answer is taken.
 *
 * @param at the server's time at the start of the request
 * @param used attempts at the question, in all and on the day of the request
 */
export function refusedAttempt(
  policy: AttemptPolicy,
  at: number,
  used: { readonly all: number; readonly today: number },
): Refused | null {
  if (daysLate(policy, at) > policy.lateDays)
    return { code: 'deadline-passed', message: 'The deadline has passed. Your answer was not taken.' };
  if (used.all >= policy.attempts)
    return { code: 'no-attempts', message: `All ${policy.attempts} attempts are used.` };
  if (policy.perDay !== null && used.today >= policy.perDay)
    return {
      code: 'no-attempts-today',
      message: `${counted(policy.perDay, 'attempt')} a day ${policy.perDay === 1 ? 'is' : 'are'} used. Tomorrow there are more.`,
    };
  return null;
}

/** The rule of lateness in words; empty where there is none. */
export function lateWords({
  graceMinutes,
  latePercent,
  lateDays,
}: Omit<AttemptPolicy, 'deadline' | 'attempts' | 'perDay'>): string {
  const grace = graceMinutes > 0 ? `${counted(graceMinutes, 'minute')} of grace` : '';
  const late =
    lateDays > 0 ? `then ${shortNumber(latePercent)} % less a day for ${counted(lateDays, 'day')}` : '';
  return [grace, late].filter((one) => one !== '').join(', ');
}
