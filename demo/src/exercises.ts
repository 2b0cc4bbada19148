import type { SplitPlan } from '@modest-sieve/core/splitting';
import type { Question } from '@modest-sieve/core/assessment';
import { deepForest, fromTheFuture, smallTree } from './models.js';
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

/** What a student hands in to one question, from the pack and from what they see on the sheet. */
export interface DemoAnswer {
  readonly question: string;
  /** From the files of the pack. */
  readonly file?: (pack: Readonly<Record<string, Uint8Array>>) => string;
  /** Ending of the file’s name; csv where it is left out. */
  readonly ending?: 'pmml';
  /** From the text and the fields of the student's own sheet. */
  readonly fields?: (sheet: {
    readonly text: string;
    readonly fields: readonly { readonly key: string; readonly label: string }[];
  }) => Record<string, string>;
}

/** One exercise of the demo: how its rows are split, what is asked, and what each student hands in. */
export interface DemoExercise {
  readonly split: SplitPlan;
  readonly settings: Readonly<Record<string, unknown>> & { readonly questions: readonly Question[] };
  readonly dueInDays: number;
  /** Answers by student, in the order of `STUDENTS`. */
  readonly answers: readonly (readonly DemoAnswer[])[];
  readonly returned: boolean;
}

const drawn = (values: SplitPlan['values']): SplitPlan => ({
  kind: 'draw',
  values: { sized: 'percent', validation: 0, stratify: 'survived', group: '', ...values },
});
/** The split of the first table that its exercises are set on. */
export const BY_APIARY = drawn({ training: 60, validation: 15, heldout: 25, group: 'apiary', seed: 2718 });

const predictions = (
  metric: string,
  [nothing, most, all]: readonly [number, number, number],
  text: string,
): Question => ({
  id: 'q1',
  kind: 'predictions',
  title: 'Hand in your predictions',
  text,
  metric,
  scheme: { nothing, most, all, mostMarks: 8, marks: 10 },
});

const heldOut = (make: (file: Uint8Array) => string): DemoAnswer => ({
  question: 'q1',
  file: (pack) => make(pack['held-out.csv'] ?? new Uint8Array()),
});

/** A model that is fitted to the training rows. */
const model = (make: (training: Uint8Array) => string): DemoAnswer => ({
  question: 'q1',
  ending: 'pmml',
  file: (pack) => make(pack['training.csv'] ?? new Uint8Array()),
});

/** An exercise on each topic of the course: prediction, splitting, cross-validation, overfitting, metrics. */
export const DEMO_EXERCISES: readonly DemoExercise[] = [
  {
    split: BY_APIARY,
    settings: {
      title: 'A first try',
      brief: `The held-out colonies are those of apiaries that you have no records of. Say **yes** or **no** for each of them: did
it survive?

Always saying yes is right for about 72 % of the colonies.`,
      questions: [predictions('accuracy', [0.72, 0.78, 0.82], '')],
      attempts: 3,
      counts: 'last',
      feedback: 'after-return',
    },
    dueInDays: 2,
    answers: [
      [heldOut(labels(careful))],
      [heldOut(labels(frequent)), heldOut(labels(quick))],
      [heldOut(labels(frequent))],
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
          text: 'A model was tried on {n} colonies. Of the {positive} that survived it named {tp} rightly; of the {negative} that were lost it named {tn} rightly. Survival is the positive class.',
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
    ],
    returned: false,
  },
  {
    split: BY_APIARY,
    settings: {
      title: 'A split you can defend',
      brief: `Before anything is fitted, the records are split. The school wants to know how well a model does in **apiaries it
has not seen**: part the training rows so that the test rows can tell.`,
      questions: [
        {
          id: 'q1',
          kind: 'split',
          title: 'The split you used',
          text: 'Keep about 80 % of the rows for training and the rest for testing. Both parts should lose about the same share of colonies, and no apiary may stand on both sides.',
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
          text: 'Say of each statement whether it is true.',
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

A model that knows its training rows by heart is told from one that has learned something by what it says of new ones.`,
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
    answers: [[model(fromTheFuture), model(smallTree)], [model(deepForest)], []],
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
          text: 'Say of each statement whether it is true.',
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
