import type { DemoTable } from './demo-table.js';
import { honeyYieldCsv, HONEY_YIELD_STEPS } from './honey-yield.js';
import { overwinteringCsv, OVERWINTERING_STEPS } from './overwintering.js';
import { pollenGrainsCsv, POLLEN_GRAINS_STEPS } from './pollen-grains.js';
import { HONEY_TRIALS, OVERWINTERING_TRIALS, POLLEN_TRIALS } from './trials.js';
import { NO_ROLES, OVERWINTERING_ROLES } from './roles.js';
import { scaleReadingsCsv, SCALE_READINGS_STEPS } from './scale-readings.js';

const SHARES = { sized: 'percent', training: 80, validation: 0, heldout: 20 };

/** The first is the one that exercises are set on. */
export const DEMO_TABLES: readonly [DemoTable, ...DemoTable[]] = [
  {
    file: 'overwintering.csv',
    csv: overwinteringCsv,
    roles: OVERWINTERING_ROLES,
    descriptions: {
      inspected: 'Day of the last visit before winter',
      stores_kg: 'Food in the hive in October, in kilograms',
      mite_wash: 'Mites counted in a wash of 300 bees; blank where none was taken',
      survived: 'Whether the colony was alive at the first visit in spring',
    },
    steps: OVERWINTERING_STEPS,
    split: null,
    folds: { kind: 'draw', values: { k: 10, stratify: 'survived', group: 'apiary', repeats: 1, seed: 2718 } },
    trials: OVERWINTERING_TRIALS,
  },
  {
    file: 'honey-yield.csv',
    csv: honeyYieldCsv,
    roles: {
      ...NO_ROLES,
      target: 'honey_kg',
      task: 'regression',
      identifier: 'season_id',
      group: 'apiary',
      time: 'season',
    },
    descriptions: {
      sun_hours: 'Hours of sunshine from May to July',
      honey_kg: 'Honey taken from the hive in the season, in kilograms',
    },
    steps: HONEY_YIELD_STEPS,
    split: { kind: 'column', values: { column: 'season', heldout: ['2024'], validation: ['2023'] } },
    folds: { kind: 'leave-one-group-out', values: { group: 'season' } },
    trials: HONEY_TRIALS,
  },
  {
    file: 'pollen-grains.csv',
    csv: pollenGrainsCsv,
    roles: { ...NO_ROLES, target: 'plant', task: 'multiclass', identifier: 'grain', group: 'slide' },
    descriptions: {
      diameter_um: 'Mean of the longest and the shortest diameter, in micrometres',
      elongation: 'Longest by shortest diameter',
    },
    steps: POLLEN_GRAINS_STEPS,
    split: { kind: 'draw', values: { ...SHARES, stratify: 'plant', group: 'slide', seed: 1827 } },
    folds: { kind: 'draw', values: { k: 5, stratify: 'plant', group: 'slide', repeats: 2, seed: 1827 } },
    trials: POLLEN_TRIALS,
  },
  {
    file: 'scale-readings.csv',
    csv: scaleReadingsCsv,
    roles: { ...NO_ROLES, target: 'weight_tomorrow_kg', task: 'regression', group: 'scale', time: 'read_at' },
    descriptions: { weight_tomorrow_kg: 'What the same scale reads 24 hours later, in kilograms' },
    steps: SCALE_READINGS_STEPS,
    split: { kind: 'time', values: { ...SHARES, time: 'read_at', gap: 1 } },
    trials: [],
    folds: { kind: 'expanding', values: { k: 5, time: 'read_at', gap: 1 } },
  },
];
