import { describe, expect, it } from '@jest/globals';
import { api, courseApi } from './address.js';
import { isConcerned, topicOf } from './concerned.js';

describe('an address of the API', () => {
  it('has the values of its names, encoded, and the query that is given', () => {
    const address = courseApi('a/b');
    expect(address('/data-sets/{dataSet}/pair', { dataSet: 'd.2' }, { x: 'brood frames', y: 'ü' })).toBe(
      '/api/v1/courses/a%2Fb/data-sets/d.2/pair?x=brood+frames&y=%C3%BC',
    );
    expect(address('')).toBe('/api/v1/courses/a%2Fb');
    expect(api('/api/v1/session')).toBe('/api/v1/session');
    expect(address('/audit', {}, {})).toBe('/api/v1/courses/a%2Fb/audit');
  });
});

describe('what is asked for again after a change', () => {
  const address = courseApi('c');
  const shown = [
    address(''),
    address('/people'),
    address('/data-sets/{dataSet}', { dataSet: 'd' }),
    address('/exercises/{exercise}/class', { exercise: 'e' }),
    address('/gradebook'),
    address('/jobs'),
    api('/api/v1/session'),
    courseApi('other')('/jobs'),
  ];
  const again = (about: Parameters<typeof isConcerned>[2]) =>
    shown.filter((one) => isConcerned(one, 'c', about));

  it('is what it concerns, in its course alone', () => {
    expect(again('jobs')).toEqual(['/api/v1/courses/c/jobs']);
    expect(again('submissions')).toEqual([
      '/api/v1/courses/c/exercises/e/class',
      '/api/v1/courses/c/gradebook',
      '/api/v1/courses/c/jobs',
    ]);
    expect(again('data')).not.toContain('/api/v1/courses/c/people');
    expect(again('people')).toEqual(expect.arrayContaining(['/api/v1/courses/c', '/api/v1/session']));
    expect(again('people')).not.toContain('/api/v1/courses/other/jobs');
  });

  it('follows from the address that a change is sent to', () => {
    const at = { exercise: 'e', submission: 's' };
    expect(topicOf(address('/exercises/{exercise}/submissions/{submission}/marks', at))).toEqual({
      courseId: 'c',
      about: 'submissions',
    });
    expect(topicOf(address('/exercises/{exercise}/return', at))).toEqual({
      courseId: 'c',
      about: 'exercises',
    });
    expect(topicOf(address('/data-sets'))?.about).toBe('data');
    expect(topicOf(address('/invitations'))?.about).toBe('people');
    // What a job was about is not in its address.
    expect(topicOf(address('/jobs/{job}', { job: 'j' }))).toBeNull();
    expect(topicOf(api('/api/v1/session'))).toBeNull();
  });
});
