import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { helpOf } from './page-help.js';

const COURSE = '/courses/5b0c';
const PATHS = [
  '/',
  ...['look', 'prepare', 'split', 'split/folds', 'try', 'release', 'look/together'].map(
    (desk) => `${COURSE}/data/9f.3/${desk}`,
  ),
  ...[
    'data',
    'exercises',
    'exercises/new',
    'exercises/e1',
    'exercises/e1/submissions',
    'exercises/e1/explain',
    'exercises/e1/correction',
  ].map((page) => `${COURSE}/${page}`),
  ...['gradebook', 'marks', 'people', 'people/trail', 'jobs'].map((page) => `${COURSE}/${page}`),
];

/** Anchors as they are made of headings. */
const anchorsOf = (guide: string): string[] =>
  Array.from(
    readFileSync(new URL(`../../../docs/${guide}.md`, import.meta.url), 'utf8').matchAll(/^#+ (.+)$/gm),
    ([, heading = '']) => heading.toLowerCase().replaceAll(' ', '-'),
  );

describe('the help of a page', () => {
  it.each(PATHS)('%s says in at most five lines what it is for, and leads to a place of a guide', (path) => {
    for (const role of ['instructor', 'student'] as const) {
      const { lines, guide } = helpOf(path, role);
      expect(lines.length).toBeGreaterThan(0);
      expect(lines.length).toBeLessThanOrEqual(5);
      const [name = '', anchor] = guide.split('#');
      if (name !== '' && anchor !== undefined) expect(anchorsOf(name)).toContain(anchor);
    }
  });

  it('is that of the page, and not of the one above it', () => {
    const titles = (role: 'instructor' | 'student') => PATHS.map((path) => helpOf(path, role).title);
    expect(titles('instructor')).toEqual(expect.arrayContaining(['What was handed in', 'What to explain']));
    expect(helpOf(`${COURSE}/exercises/new`, 'instructor').title).toBe('New exercise');
    expect(helpOf(`${COURSE}/exercises/e1`, 'instructor').guide).toBe('instructor#release');
    expect(helpOf(`${COURSE}/exercises/e1`, 'student').guide).toBe('student');
    expect(helpOf(`${COURSE}/data/9f/split/folds`, 'instructor').title).toBe('Split');
  });
});
