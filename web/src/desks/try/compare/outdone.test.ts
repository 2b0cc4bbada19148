import { describe, expect, it } from '@jest/globals';
import { outdoneBy } from './outdone.js';
import { cheapest, nearestThreshold } from '../../../kit/plot/thresholds.js';

type Run = Parameters<typeof outdoneBy>[0];

function run(id: string, mean: number, gap: number, size: number, more: Partial<Run> = {}): Run {
  const summary = { mean, se: 0.01, folds: [], train: mean + gap, gap, reason: null };
  return {
    id,
    foldSetId: 'folds',
    plan: {
      model: { kind: 'tree', values: { depth: 30 } },
      features: ['a', 'b'],
      vary: [],
      metric: 'accuracy',
      choose: 'best',
      weight: null,
      seed: 1,
    },
    result: {
      chosen: { values: {}, size, metrics: { accuracy: summary } },
      settings: 1,
      size: { count: size, of: 'leaves' },
      rows: 100,
      training: {},
      validation: null,
      heldOut: null,
      seconds: 1,
      warnings: [],
    },
    ...more,
  };
}

describe('a gap is a fault only where a simpler setting does as well', () => {
  const deep = run('deep', 0.7, 0.3, 90);

  it('so a simpler run of the family that is as good on held-out rows tells it', () => {
    const shallow = run('shallow', 0.75, 0.05, 8);
    expect(outdoneBy(deep, [deep, shallow], 'accuracy')?.id).toBe('shallow');
    expect(outdoneBy(shallow, [deep, shallow], 'accuracy')).toBeNull();
  });

  it('and no other does: a worse one, a larger one, one of other folds, features or family', () => {
    const { plan } = deep;
    const others = [
      run('worse', 0.69, 0.01, 4),
      run('larger', 0.9, 0, 120),
      run('elsewhere', 0.9, 0, 4, { foldSetId: 'other' }),
      run('less', 0.9, 0, 4, { plan: { ...plan, features: ['a'] } }),
      run('screened', 0.9, 0, 4, { plan: { ...plan, screening: { by: 'anova', keep: 1 } } }),
      run('logistic', 0.9, 0, 4, { plan: { ...plan, model: { kind: 'logistic', values: {} } } }),
      run('waiting', 0, 0, 0, { result: null }),
    ];
    expect(outdoneBy(deep, [deep, ...others], 'accuracy')).toBeNull();
    expect(outdoneBy(run('fair', 0.7, -0.01, 90), [run('simple', 0.8, 0, 4)], 'accuracy')).toBeNull();
  });
});

describe('a threshold', () => {
  const rows = [
    { threshold: 0.9, tp: 2, fp: 0, fn: 8, tn: 20 },
    { threshold: 0.5, tp: 6, fp: 4, fn: 4, tn: 16 },
    { threshold: 0.1, tp: 10, fp: 15, fn: 0, tn: 5 },
  ];

  it('gives the confusion of the scores from it on', () => {
    expect(nearestThreshold(rows, 0.5)).toMatchObject({ tp: 6, fp: 4 });
    expect(nearestThreshold(rows, 0.51)).toMatchObject({ tp: 2, fp: 0 });
    expect(nearestThreshold(rows, 0.95)).toEqual({ threshold: 0.95, tp: 0, fp: 0, fn: 10, tn: 20 });
    expect(nearestThreshold(rows, 0)).toMatchObject({ tp: 10 });
    expect(nearestThreshold([], 0.5)).toBeNull();
  });

  it('is lowest where missed ones are dear, and highest where false alarms are', () => {
    expect(cheapest(rows, { missed: 10, alarm: 1 })).toEqual({ threshold: 0.1, cost: 15 });
    expect(cheapest(rows, { missed: 1, alarm: 10 })).toEqual({ threshold: 0.9, cost: 8 });
    expect(cheapest([], { missed: 1, alarm: 1 })).toBeNull();
  });
});
