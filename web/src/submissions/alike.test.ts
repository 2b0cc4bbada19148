import { expect, it } from '@jest/globals';
import { clustersOf, nameOf, studentOf } from './alike.js';

it('students who are linked by way of others are one cluster', () => {
  const pairs = ['a-b', 'c-d', 'e-f', 'd-b'];
  const clusters = clustersOf(pairs, (pair) => pair.split('-') as [string, string]);
  expect(clusters.map(({ students }) => [...students].sort().join(''))).toEqual(['ef', 'abcd']);
  expect(clusters[1]?.pairs).toEqual(['a-b', 'c-d', 'd-b']);
});

it('an answer names its student, also one who has left', () => {
  const view = {
    lines: [{ person: { id: 'p', name: 'Orla Fenn' } }],
    submissions: [
      { id: 's', personId: 'p' },
      { id: 't', personId: 'q' },
    ],
  } as unknown as Parameters<typeof studentOf>[0];
  expect(studentOf(view, 's')).toEqual({ id: 'p', name: 'Orla Fenn' });
  expect(studentOf(view, 't').name).toBe('somebody who left the course');
  expect(nameOf(view, 'p')).toBe('Orla Fenn');
});
