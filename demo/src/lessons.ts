import { createHash } from 'node:crypto';
import { asksNames, generatorOf, NONE, type Question } from '@modest-sieve/core/assessment';
import { readCsv } from '@modest-sieve/core/data';
import { type DemoAnswer } from './exercise-parts.js';
import { OVERWINTERING_ROLES } from './roles.js';

type Figures = Extract<Question, { kind: 'values' }>;

const MEASURED = ['frames_of_bees', 'mite_wash', 'stores_kg', 'altitude_m'];

const question = (
  id: string,
  title: string,
  text: string,
  figures: Figures['figures'],
  decimals = 3,
): Figures => ({
  id,
  kind: 'values',
  title,
  text,
  marks: 3,
  figures,
  tolerance: { kind: 'digits', values: { decimals } },
});

/** Six lessons, each with a figure that says it; all keys are computed from the training rows. */
export const LESSONS: readonly Figures[] = [
  question(
    'q1',
    'What one frame is worth',
    'Fit {model} of **{target}** on {features} to the training rows, and look at **{term}**. By what are the odds of survival multiplied for one frame of bees more, and by what for {k}? {notes}',
    {
      kind: 'coefficient',
      values: {
        model: 'logistic',
        features: MEASURED,
        term: 'frames_of_bees',
        units: 5,
        asked: ['odds ratio', 'odds ratio for k units'],
      },
    },
  ),
  question(
    'q2',
    'Dropping a term',
    'Leave the altitude out: fit {model} of **{target}** on {features} to the training rows. What are its deviance and AIC? Compare them with those of the model above. {notes}',
    {
      kind: 'fit-figures',
      values: {
        model: 'logistic',
        features: MEASURED.filter((name) => name !== 'altitude_m'),
        asked: ['deviance', 'AIC'],
      },
    },
    1,
  ),
  question(
    'q3',
    'What the lasso leaves',
    'Ridge regression keeps every column, the lasso does not. Fit {model} of **{target}** on {features} to the training rows: which columns stay? {notes}',
    {
      kind: 'nonzero-coefficients',
      values: {
        model: 'lasso penalty=0.06',
        features: [...MEASURED, 'brood_frames', 'feeder'],
        asked: ['coefficients that are not 0', 'columns that stay'],
      },
    },
  ),
  question(
    'q4',
    'How deep?',
    'Judge {model} of **{target}** on {features} by {metric} with {setting} = {settings}, each over {folds}. {notes}',
    {
      kind: 'best-setting',
      values: {
        model: 'tree',
        features: MEASURED,
        setting: 'depth',
        settings: ['1', '2', '3', '5', '8', '12'],
        metric: 'log_loss',
        k: 5,
      },
    },
  ),
  question(
    'q5',
    'For whom is it wrong?',
    'Fit {model} of **{target}** on {features} to the training rows, and judge it there by {metric}, by **{by}**. The subgroup is “{group}”. {notes}',
    {
      kind: 'subgroup-score',
      values: {
        model: 'tree depth=3',
        features: MEASURED,
        metric: 'accuracy',
        by: 'treatment',
        group: 'none',
        asked: ['score of the subgroup', 'score of all other rows', 'subgroup with the worst score'],
      },
    },
  ),
  question(
    'q6',
    'The best fold is not the model',
    'Judge {model} of **{target}** on {features} by {metric} over {folds}. What may be said of the model, and what did the luckiest fold show? {notes}',
    {
      kind: 'model-score',
      values: {
        model: 'tree depth=5',
        features: MEASURED,
        metric: 'accuracy',
        k: 5,
        asked: ['mean over the folds', 'score of the best fold', 'gap'],
      },
    },
  ),
];

/** What is computed from a training file, by its checksum: a whole class computes the same. */
const computed = new Map<string, Record<string, string>>();

/** What somebody answers who computes everything from the training file. */
export function computedAnswers({ figures }: Figures, training: Uint8Array): Record<string, string> {
  const kind = generatorOf(figures);
  if (kind.from !== 'data') throw new Error('a lesson is computed');
  const { table } = readCsv(training, { file: 'training.csv' });
  const material = { table, validation: null, all: table, roles: OVERWINTERING_ROLES };
  return Object.fromEntries(
    kind
      .compute(figures.values, material)
      .asked.map((one) => [
        one.key,
        asksNames(one)
          ? one.right.join('; ') || NONE
          : String(Number((one.figure.value ?? NaN).toPrecision(8))),
      ]),
  );
}

/** What is typed in place of what is right: mistakes that are often made, and near misses. */
const MISTAKES: Readonly<Record<string, (right: Record<string, string>) => Record<string, string>>> = {
  // Five units as five times the odds ratio of one.
  q1: (right) => ({ ...right, odds_ratio_for_k_units: String(5 * Number(right['odds_ratio'])) }),
  // A digit that was read incorrectly.
  q2: (right) => ({ ...right, deviance: String(Number(right['deviance']) + 10) }),
  q4: (right) => Object.fromEntries(Object.keys(right).map((key) => [key, '12'])),
  q5: (right) => ({ ...right, score_of_the_subgroup: right['score_of_all_other_rows'] ?? '' }),
  // The score of the luckiest fold as the model's.
  q6: (right) => ({ ...right, mean_over_the_folds: right['score_of_the_best_fold'] ?? '' }),
};

/** Answers to so many of the lessons, with mistakes in those that are named. */
export const lessonAnswers = (count: number, mistaken: readonly string[]): DemoAnswer[] =>
  LESSONS.slice(0, count).map((lesson) => ({
    question: lesson.id,
    fields: (_, pack) => {
      const training = pack['training.csv'] ?? new Uint8Array();
      const key = `${lesson.id} ${createHash('sha256').update(training).digest('hex')}`;
      const right = computed.get(key) ?? computedAnswers(lesson, training);
      computed.set(key, right);
      return mistaken.includes(lesson.id) ? (MISTAKES[lesson.id]?.(right) ?? right) : right;
    },
  }));
