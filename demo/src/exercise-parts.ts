import type { SplitPlan } from '@modest-sieve/core/splitting';
import type { FurtherFigure, Question } from '@modest-sieve/core/assessment';
import type { Sheet } from './submissions.js';

/** What a student hands in to one question, from the pack and from what they see on the sheet. */
export interface DemoAnswer {
  readonly question: string;
  /** From the files of the pack. */
  readonly file?: (pack: Readonly<Record<string, Uint8Array>>) => string;
  /** Ending of the file’s name; csv where it is left out. */
  readonly ending?: 'pmml';
  /** From the text and the fields of the student's own sheet, or from the files of the pack. */
  readonly fields?: (sheet: Sheet, pack: Readonly<Record<string, Uint8Array>>) => Record<string, string>;
}

/** One exercise of the demo: how its rows are split, what is asked, and what each student hands in. */
export interface DemoExercise {
  readonly split: SplitPlan;
  readonly settings: Readonly<Record<string, unknown>> & { readonly questions: readonly Question[] };
  readonly dueInDays: number;
  /** Answers by student: first those of `STUDENTS`, then those of `CLASSMATES`. */
  readonly answers: readonly (readonly DemoAnswer[])[];
  readonly returned: boolean;
}

const drawn = (values: SplitPlan['values']): SplitPlan => ({
  kind: 'draw',
  values: { sized: 'percent', validation: 0, stratify: 'survived', group: '', ...values },
});
/** The split of the first table that its exercises are set on. */
export const BY_APIARY = drawn({ training: 60, validation: 15, heldout: 25, group: 'apiary', seed: 2718 });

export const predictions = (
  metric: string,
  [nothing, most, all]: readonly [number, number, number],
  text: string,
  further: readonly FurtherFigure[] = [],
): Question => ({
  id: 'q1',
  kind: 'predictions',
  title: 'Hand in your predictions',
  text,
  metric,
  scheme: { nothing, most, all, mostMarks: 8, marks: 10 },
  ...(further.length === 0 ? {} : { further }),
});

export const heldOut = (make: (file: Uint8Array) => string): DemoAnswer => ({
  question: 'q1',
  file: (pack) => make(pack['held-out.csv'] ?? new Uint8Array()),
});

/** A model that is fitted to the training rows. */
export const model = (make: (training: Uint8Array) => string): DemoAnswer => ({
  question: 'q1',
  ending: 'pmml',
  file: (pack) => make(pack['training.csv'] ?? new Uint8Array()),
});
