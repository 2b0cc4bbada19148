import {
  careful,
  exchanged,
  fieldsFrom,
  frequent,
  inPercent,
  labels,
  probabilities,
  quick,
  wholeApiaries,
} from './submissions.js';
import { classCounts, classPredictions } from './class-work.js';
import { type DemoAnswer, type DemoExercise, BY_APIARY, predictions, heldOut } from './exercise-parts.js';

/** What each student answers to two questions. */
const together = (first: readonly DemoAnswer[][], second: readonly DemoAnswer[][]): DemoAnswer[][] =>
  first.map((answers, student) => [...answers, ...(second[student] ?? [])]);

/** Exercises on prediction, splitting and cross-validation. */
export const ON_SPLITS: readonly DemoExercise[] = [
  {
    split: BY_APIARY,
    settings: {
      title: 'A first try',
      brief: `The held-out colonies are those of apiaries that you have no records of. Say **yes** or **no** for each of them: did
it survive?

Always saying yes is right for about 72 % of the colonies.`,
      questions: [
        predictions('accuracy', [0.72, 0.78, 0.82], '', [
          {
            metric: 'specificity',
            on: { kind: 'all', values: {} },
            scheme: { nothing: 0, most: 0.5, all: 0.8, mostMarks: 2, marks: 3 },
          },
          {
            metric: 'accuracy',
            on: { kind: 'worst', values: { column: 'hive_type' } },
            scheme: { nothing: 0.6, most: 0.75, all: 0.85, mostMarks: 1, marks: 2 },
          },
        ]),
      ],
      attempts: 3,
      counts: 'last',
      feedback: 'after-return',
    },
    dueInDays: 2,
    answers: [
      [heldOut(labels(careful))],
      [heldOut(labels(frequent)), heldOut(labels(quick))],
      [heldOut(labels(frequent))],
      ...classPredictions('labels'),
    ],
    returned: true,
  },
  {
    split: BY_APIARY,
    settings: {
      title: 'Which colonies will survive?',
      brief: `The school visited its colonies in October. You have the records of most of them and what became of each in
spring. Say for the others how likely each is to **survive**.

Colonies of one apiary resemble one another: think about what that does to your validation.`,
      questions: [
        predictions('roc_auc', [0.5, 0.78, 0.84], ''),
        {
          id: 'q2',
          kind: 'values',
          title: 'Precision and recall',
          text: 'A model was tried on {n} colonies. Of the {positive} that survived it predicted {tp} correctly; of the {negative} that were lost it predicted {tn} correctly. Survival is the positive class.',
          marks: 4,
          figures: {
            kind: 'confusion',
            values: { rows: 180, positive: 72, asked: ['precision', 'recall (sensitivity)'] },
          },
          tolerance: { kind: 'digits', values: { decimals: 3 } },
        },
      ],
      attempts: 5,
      counts: 'best',
      feedback: 'rounded',
      graceMinutes: 15,
      latePercent: 10,
      lateDays: 3,
    },
    dueInDays: 14,
    answers: [
      [heldOut(inPercent), heldOut(probabilities(careful)), { question: 'q2', fields: fieldsFrom }],
      [heldOut(probabilities(exchanged)), heldOut(probabilities(quick))],
      [],
      ...together(classPredictions('probabilities'), classCounts('q2')),
    ],
    returned: false,
  },
  {
    split: BY_APIARY,
    settings: {
      title: 'A split you can defend',
      brief: `Before anything is fitted, the records are split. The school wants to know how well a model does in **apiaries it
has not seen**: split the training rows so that the test rows can show it.`,
      questions: [
        {
          id: 'q1',
          kind: 'split',
          title: 'The split you used',
          text: 'Keep about 80 % of the rows for training and the rest for testing. Both parts should lose about the same share of colonies, and no apiary may are on both sides.',
          marks: 6,
          values: {
            training: 80,
            validation: 0,
            within: 4,
            stratify: 'survived',
            sharesWithin: 5,
            group: 'apiary',
            time: '',
            twins: 'anywhere',
            credit: 'each',
          },
        },
        {
          id: 'q2',
          kind: 'values',
          title: 'How many rows?',
          text: 'A table of {n} hives, of which {positive} % swarmed, is split with equal shares: {share} % for testing, the rest for training.',
          marks: 2,
          figures: {
            kind: 'split-sizes',
            values: { largest: 4000, asked: ['training rows', 'positive test rows'] },
          },
          tolerance: { kind: 'absolute', values: { within: 0 } },
        },
      ],
      attempts: 4,
      counts: 'best',
      feedback: 'rounded',
    },
    dueInDays: 7,
    answers: [
      [{ question: 'q1', file: (pack) => wholeApiaries(pack['training.csv'] ?? new Uint8Array(), 'part') }],
      [],
      [],
    ],
    returned: false,
  },
  {
    split: BY_APIARY,
    settings: {
      title: 'Folds, and what they say',
      brief: `One split is one draw. Assign the training rows to five folds, never splitting an apiary, predict every row from
the four folds that it is not in, and report what you find.`,
      questions: [
        {
          id: 'q1',
          kind: 'folds',
          title: 'Your folds and your out-of-fold predictions',
          text: 'Fit a logistic regression on all features. The probability is that of survival. Report the mean of the area under the ROC curve over the five folds and its standard error.',
          marks: 8,
          values: {
            k: 5,
            stratify: '',
            group: 'apiary',
            reports: 'predictions',
            metric: 'roc_auc',
            family: 'logistic',
            settings: '',
            credit: 'each',
          },
        },
        {
          id: 'q2',
          kind: 'choice',
          title: 'What may be said of folds',
          text: 'Choose for each statement whether it is true.',
          marks: 3,
          values: { manner: 'each', credit: 'less' },
          statements: [
            { reading: 'replacement' },
            { reading: 'deviation' },
            {
              text: 'Folds that keep apiaries whole estimate how well the model does in new apiaries',
              truth: true,
            },
          ],
        },
      ],
      attempts: 4,
      counts: 'best',
      feedback: 'only-when-better',
    },
    dueInDays: 10,
    answers: [[], [], []],
    returned: false,
  },
];
