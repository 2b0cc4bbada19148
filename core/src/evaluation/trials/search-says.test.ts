import { describe, expect, it } from '@jest/globals';
import { metricNamed } from '../../metrics/registry.js';
import type { Luck } from '../search/luck.js';
import { TRAINING_SHARE } from './plan.js';
import type { Run } from './run.js';
import { trialSays } from './says.js';
import type { SettingSummary } from './setting-summary.js';
import { chooseAtFullSize } from './summary.js';

const metric = metricNamed('accuracy');
const setting = (depth: number, rows: number, mean: number, more: object = {}): SettingSummary => ({
  values: { depth, rows, ...more },
  size: 2 ** depth,
  metrics: {
    accuracy: {
      mean,
      se: 0.01,
      folds: [mean - 0.01, mean, mean + 0.01],
      train: mean + 0.1,
      gap: 0.1,
      reason: null,
    },
  },
});

/** What a search over these settings says, as messages. */
function saidOf(settings: SettingSummary[], luck: Luck | null) {
  const along = ['depth', 'rows'].map((key) => ({ key, larger: 'complex' as const, settings: [] }));
  const choice = chooseAtFullSize(settings, metric, along, 3);
  const run: Run = {
    settings,
    choices: { accuracy: choice },
    place: choice?.best ?? 0,
    metric,
    labels: { depth: 'depth', rows: 'rows in a leaf' },
    limits: {},
    folds: 3,
    baseline: null,
    majority: null,
    grouping: null,
    tried: 1,
    validation: null,
    search: { luck },
    isBaseline: true,
  };
  return trialSays(run);
}

const luck = (low: number, of = 0.02): Luck => ({
  seen: 0.8,
  expected: 0.8 - of,
  luck: of,
  lead: { mean: 0.05, low, high: 0.1 },
  settings: 3,
});
const SETTINGS = [setting(9, 1, 0.7), setting(3, 8, 0.8), setting(2, 30, 0.795)];

describe('a search in words', () => {
  it('names the best, and a simpler one within a standard error', () => {
    const [first] = saidOf(SETTINGS, luck(0.01));
    expect(first?.message).toBe('Of 3 settings the best is depth 3 and rows in a leaf 8');
    expect(first?.measured).toContain(
      'depth 2 and rows in a leaf 30 is simpler and within one standard error',
    );
  });

  it('says how much is luck, and of a lead only what the rows without a say bear out', () => {
    const messages = (of: Luck | null) => saidOf(SETTINGS, of).map(({ message }) => message);
    expect(messages(luck(0.01))).toEqual(
      expect.arrayContaining([
        'About 0.02 of the best accuracy may be luck',
        'Better than the setting that the search began with',
      ]),
    );
    expect(messages(luck(-0.01))).toContain(
      'Not shown to be better than the setting that the search began with',
    );
    expect(messages(luck(0.01, -0.001))).toContain('The best accuracy owes nothing to luck that can be seen');
    expect(messages(null)).toContain('How much of the best accuracy is luck is not known');
  });

  it('leaves a share of the rows out of the names, and settings that were dropped out of the choice', () => {
    const [first] = saidOf([...SETTINGS, setting(4, 4, 0.99, { [TRAINING_SHARE]: 33 })], luck(0.01));
    expect(first?.message).toBe('Of 4 settings the best is depth 3 and rows in a leaf 8');
  });

  it('has none of the sentences of a curve', () => {
    const ids = saidOf(SETTINGS, luck(0.01)).map(({ id }) => id);
    expect(ids).not.toEqual(expect.arrayContaining(['flattered']));
    expect(ids).not.toEqual(expect.arrayContaining(['memorises']));
  });
});
