import { describe, expect, it } from '@jest/globals';
import {
  checkQuestions,
  checkScheme,
  firstScheme,
  marksFor,
  markingMetrics,
  QUESTION_KINDS,
  TASKS,
  type Question,
} from '@modest-sieve/core';
import { DATA as data } from './data-of-tests.js';
import { firstSettings, newQuestion } from './settings.js';

describe('the points that a new exercise begins with', () => {
  it.each(TASKS.flatMap((task) => markingMetrics(task).map((metric) => [task, metric.key, metric] as const)))(
    'for %s, %s: are ones that the server takes',
    (_, __, metric) => {
      for (const sd of [0.001, 1, 77.2, 1e6]) {
        const scheme = firstScheme(metric, sd);
        expect(() => checkScheme(scheme, metric)).not.toThrow();
        expect(marksFor(scheme, scheme.most)).toBe(scheme.mostMarks);
      }
    },
  );

  it('never mark by a figure that has no better and worse', () => {
    expect(markingMetrics('regression').map((metric) => metric.key)).not.toContain('mean_error');
  });
});

describe('a new exercise', () => {
  it('is due at six in the evening of the course’s time zone, in a week', () => {
    const settings = firstSettings('split', data, 'Pacific/Auckland');
    const hour = new Intl.DateTimeFormat('en-GB', {
      timeZone: 'Pacific/Auckland',
      hour: '2-digit',
      minute: '2-digit',
    }).format(new Date(settings.deadline));
    expect(hour).toBe('18:00');
    const days = (new Date(settings.deadline).getTime() - Date.now()) / 86_400_000;
    expect(days).toBeGreaterThan(6);
    expect(days).toBeLessThan(8);
  });

  it('takes a question of every kind, each with a name of its own, also after one was taken out', () => {
    const all = QUESTION_KINDS.reduce<Question[]>((so, { key }) => [...so, newQuestion(key, so, data)], []);
    expect(() => checkQuestions(all, data)).not.toThrow();
    const left = all.filter(({ id }) => id !== 'q2');
    expect(left.map(({ id }) => id)).not.toContain(newQuestion('choice', left, data).id);
  });
});
