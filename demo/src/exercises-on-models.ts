import { deepForest, fromTheFuture, smallTree, treeAs } from './models.js';
import { type DemoExercise, BY_APIARY, model } from './exercise-parts.js';

/** Depth and rows of a leaf of the trees that classmates hand in, by student. */
const TREES: readonly (readonly (readonly [number, number])[])[] = [
  [[4, 10]],
  [[2, 30]],
  [],
  [[3, 20]],
  [[5, 25]],
  [],
  [
    [12, 1],
    [4, 25],
  ],
  [],
  [[3, 40]],
];

/** Exercises on overfitting, models and metrics. */
export const ON_MODELS: readonly DemoExercise[] = [
  {
    split: BY_APIARY,
    settings: {
      title: 'How deep may a tree grow?',
      brief: `A tree that may grow without end knows its training rows by heart. Find the depth at which it knows enough: fit
trees over your folds and look at both errors.`,
      questions: [
        {
          id: 'q1',
          kind: 'curve',
          title: 'The depth you chose',
          text: 'Fit a decision tree of each depth on all features. Errors are shares of colonies predicted incorrectly: on the rows that it is trained on, and over the folds with their standard error.',
          marks: 6,
          run: null,
          values: {
            setting: 'depth',
            settings: ['1', '2', '3', '4', '6', '8', '12'],
            measure: 'error',
            rule: 'one-se',
            family: 'tree',
            credit: 'each',
          },
        },
        {
          id: 'q2',
          kind: 'values',
          title: 'A table of depths',
          text: 'Trees of {settings} depths were tried by {k}-fold cross-validation. The table gives mean accuracy and its standard error.',
          marks: 2,
          figures: {
            kind: 'settings-table',
            values: { settings: 8, k: 10, asked: ['best depth', 'simplest depth within one standard error'] },
          },
          tolerance: { kind: 'absolute', values: { within: 0 } },
        },
      ],
      attempts: 3,
      perDay: 2,
      counts: 'best',
      feedback: 'everything',
    },
    dueInDays: 12,
    answers: [[], [], []],
    returned: false,
  },
  {
    split: BY_APIARY,
    settings: {
      title: 'Hand in the model itself',
      brief: `This time the school keeps the held-out colonies to itself, their features too: hand in the **model**, and it is run
on them here.

A model that knows its training rows by heart is distinguished from one that has learned something by what it predicts for new ones.`,
      questions: [
        {
          id: 'q1',
          kind: 'model',
          title: 'Your model',
          text: 'Any model that can be written as ONNX, as PMML or as a table of coefficients. It is judged by its probabilities of survival.',
          metric: 'brier',
          scheme: { nothing: 0.2, most: 0.17, all: 0.15, mostMarks: 8, marks: 10 },
          values: {
            takes: 'any',
            link: 'logit',
            without: ['apiary'],
            features: 'kept',
            coefficients: 'ignored',
            overfitted: 40,
          },
        },
      ],
      attempts: 3,
      counts: 'best',
      feedback: 'rounded',
    },
    dueInDays: 3,
    answers: [
      [model(fromTheFuture), model(smallTree)],
      [model(deepForest)],
      [],
      ...TREES.map((tree) => tree.map(([depth, leaf]) => model(treeAs(depth, leaf)))),
    ],
    returned: true,
  },
  {
    split: BY_APIARY,
    settings: {
      title: 'Reading a model’s figures',
      brief: `A figure says what it says and nothing more. Here are models of the school, and some sentences about them.

The $F_1$ score is $2PR/(P+R)$, with precision $P$ and recall $R$.`,
      questions: [
        {
          id: 'q1',
          kind: 'values',
          title: 'From a table of probabilities',
          text: 'The table gives for {n} colonies whether they survived and the probability that a model gave. A colony is named “yes” from {threshold} up.',
          marks: 4,
          figures: {
            kind: 'probabilities',
            values: {
              rows: 14,
              threshold: 0.5,
              asked: ['accuracy', 'specificity', 'area under the ROC curve'],
            },
          },
          tolerance: { kind: 'digits', values: { decimals: 2 } },
        },
        {
          id: 'q2',
          kind: 'choice',
          title: 'What may be said',
          text: 'Choose for each statement whether it is true.',
          marks: 4,
          values: { manner: 'each', credit: 'each' },
          statements: [
            { reading: 'r2' },
            { reading: 'area' },
            { reading: 'gap' },
            { reading: 'most-frequent' },
          ],
        },
      ],
      attempts: 3,
      counts: 'last',
      feedback: 'after-return',
    },
    dueInDays: 5,
    answers: [[], [], []],
    returned: false,
  },
];
