import { describe, expect, it } from '@jest/globals';
import { TASKS } from '@modest-sieve/core/data';
import {
  checkQuestions,
  checkScheme,
  firstScheme,
  marksFor,
  markingMetrics,
  QUESTION_KINDS,
  type Question,
} from '@modest-sieve/core/assessment';
import { DATA as data } from './data-of-tests.js';
import type { Schemas } from '../../api/client.js';
import { dataOf, firstSettings, newQuestion, schemeFor, type Data } from './settings.js';

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

describe('the points where models were tried', () => {
  const run = (isBaseline: boolean, mean: number | null, splitId = 'split') => ({
    splitId,
    isBaseline,
    means: { accuracy: mean, roc_auc: mean, log_loss: null },
  });
  const points = (tried: Data['tried'], metric = 'accuracy') => {
    const { nothing, most, all } = schemeFor(metric, 'split', { ...data, tried });
    return [nothing, most, all];
  };

  it('lead from the best baseline to the best model, and half as far beyond it', () => {
    const tried = [run(true, 0.7), run(true, 0.6), run(false, 0.8), run(false, 0.76)];
    expect(points(tried)).toEqual([0.7, 0.8, 0.85]);
    const [question] = firstSettings('split', { ...data, tried }, 'UTC').questions;
    expect(question && 'scheme' in question && question.metric).toBe('roc_auc');
    expect(question).toMatchObject({ scheme: { nothing: 0.7, most: 0.8, all: 0.85 } });
  });

  it('are those of the target where nothing was tried on this split by this metric, or nothing is better', () => {
    const plain = points([]);
    expect(points([run(true, 0.7, 'other'), run(false, 0.9, 'other')])).toEqual(plain);
    expect(points([run(true, 0.8), run(false, 0.7)])).toEqual(plain);
    expect(points([run(false, 0.9)], 'log_loss')).toEqual(points([], 'log_loss'));
  });
});

describe('what the composer knows of a split', () => {
  it('is that half of its held-out rows are for feedback, with validation rows and without', () => {
    const part = (name: string, rows: number) => ({ name, rows });
    const found = dataOf({
      name: 'Cases',
      profile: [],
      roles: data.roles,
      raw: { number: 1, rows: 60 },
      versions: [],
      foldSets: [],
      splits: [
        { id: 'two', consequences: { parts: [part('training', 36), part('heldout', 24)] } },
        {
          id: 'three',
          consequences: { parts: [part('training', 30), part('validation', 7), part('heldout', 23)] },
        },
      ],
    } as unknown as Schemas['DataSetDetail']);
    expect(['two', 'three', 'none'].map((id) => found?.feedbackRows(id))).toEqual([12, 11, 0]);
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
    const all = QUESTION_KINDS.reduce<Question[]>(
      (so, { key }) => [...so, newQuestion(key, so, data, 'split')],
      [],
    );
    expect(() => checkQuestions(all, data)).not.toThrow();
    const left = all.filter(({ id }) => id !== 'q2');
    expect(left.map(({ id }) => id)).not.toContain(newQuestion('choice', left, data, 'split').id);
  });
});
