import type { components } from './schema.js';

export type Topic = components['schemas']['ChangeEvent']['about'];

/** The parts of a course's API whose answers change with a thing, by the word that follows the course in an address. */
const CONCERNED: Readonly<Record<Topic, readonly string[]>> = {
  // The course itself names its people.
  people: ['', 'people', 'invitations', 'gradebook', 'marks', 'exercises', 'audit', 'jobs'],
  data: ['data-sets', 'splits', 'exercises', 'audit', 'jobs'],
  exercises: ['exercises', 'data-sets', 'gradebook', 'marks', 'audit', 'jobs'],
  submissions: ['exercises', 'gradebook', 'marks', 'audit', 'jobs'],
  jobs: ['jobs'],
};

const IN_COURSE = /^\/api\/v1\/courses\/([^/?]+)(?:\/([^/?]*))?/;

/**
 * Whether an answer, cached under its address, changes with a thing in a course. What is outside courses names people and
 * their courses.
 */
export function isConcerned(address: string, courseId: string, about: Topic): boolean {
  const [, course, part = ''] = IN_COURSE.exec(address) ?? [];
  if (course === undefined) return about === 'people';
  return course === courseId && CONCERNED[about].includes(part);
}

/** What a change that is sent to an address is about; null where it is about no course, so that anything may change. */
export function topicOf(address: string): { readonly courseId: string; readonly about: Topic } | null {
  const [, courseId, part = ''] = IN_COURSE.exec(address) ?? [];
  if (courseId === undefined) return null;
  if (part === 'exercises')
    return { courseId, about: /\/submissions\b/.test(address) ? 'submissions' : 'exercises' };
  if (part === 'gradebook') return { courseId, about: 'submissions' };
  if (part === 'data-sets' || part === 'splits') return { courseId, about: 'data' };
  // A job that ends may have been about anything.
  return part === 'jobs' ? null : { courseId, about: 'people' };
}
