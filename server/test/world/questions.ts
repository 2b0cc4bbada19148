import { type Question } from '@modest-sieve/core/assessment';
import { predictionsBy } from './class.js';

const CREDIT = { credit: 'each' };

/** A question of every kind, with truths that no student may see. */
export const EVERY_KIND: readonly Question[] = [
  predictionsBy('accuracy'),
  {
    id: 'split',
    kind: 'split',
    title: 'Split',
    text: '',
    marks: 4,
    values: {
      training: 75,
      validation: 0,
      within: 3,
      stratify: '',
      sharesWithin: 2,
      group: '',
      time: '',
      twins: 'anywhere',
      ...CREDIT,
    },
  },
  {
    id: 'folds',
    kind: 'folds',
    title: 'Folds',
    text: '',
    marks: 2,
    values: { k: 4, stratify: '', group: '', reports: 'nothing', metric: 'accuracy', ...CREDIT },
  },
  {
    id: 'curve',
    kind: 'curve',
    title: 'Curve',
    text: '',
    marks: 4,
    run: null,
    values: {
      setting: 'depth',
      settings: ['1', '2', '3'],
      measure: 'error',
      rule: 'best',
      family: 'tree',
      ...CREDIT,
    },
  },
  {
    id: 'values',
    kind: 'values',
    title: 'Values',
    text: 'Of {n} rows, {positive} yes: {tp} found; {tn} of {negative}.',
    marks: 4,
    figures: { kind: 'confusion', values: { rows: 200, positive: 35, asked: ['precision', 'specificity'] } },
    tolerance: { kind: 'digits', values: { decimals: 3 } },
  },
  {
    id: 'choice',
    kind: 'choice',
    title: 'Choice',
    text: '',
    marks: 2,
    values: { manner: 'each', credit: 'each' },
    statements: [
      { text: 'Folds overlap', truth: false },
      { text: 'Rows are tested once', truth: true },
    ],
  },
];
