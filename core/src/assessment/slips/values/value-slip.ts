import type { LabelData, NumberData } from '../../../metrics/metric.js';
import type { Slip } from '../contract/slip.js';

/** What figures were computed from, as far as a mistake could go wrong on it. */
export interface Workings {
  /** Every figure of the kind by its name, those that are not asked for too. */
  readonly figures: Readonly<Record<string, number>>;
  /** Rows with what is true and what was predicted as classes. */
  readonly labels?: LabelData;
  /** The same as numbers. */
  readonly numbers?: NumberData;
  /** The mean of the target on the rows that the model was fitted to. */
  readonly trainingMean?: number;
  /** Coefficients but for the intercept. */
  readonly features?: number;
  /** A score for each fold. */
  readonly scores?: readonly number[];
  /** The score of all rows at once. */
  readonly pooled?: number;
  /** Numbers that a list was summed up from. */
  readonly list?: Float64Array;
  /** Figures under a stated mistake that only the kind itself can work out, by the slip and the figure. */
  readonly mistaken?: Readonly<Record<string, Readonly<Record<string, readonly number[]>>>>;
}

/** A mistake in computing a figure. */
export interface ValueSlip extends Slip {
  /**
   * What the mistake gives where a figure is asked for; none where it cannot be made there.
   *
   * @param asked name of the figure
   */
  answers(asked: string, workings: Workings): readonly number[];
}

type Texts = Omit<Slip, 'from'>;

/** A slip whose answers follow from the workings. */
export const valueSlip = (texts: Texts, answers: ValueSlip['answers']): ValueSlip => ({
  ...texts,
  from: 'key',
  answers,
});

/** A slip that gives one figure where another is asked for. */
export const givenFor = (
  texts: Texts,
  pairs: readonly (readonly [asked: string, given: string])[],
): ValueSlip =>
  valueSlip(texts, (asked, { figures }) =>
    pairs.flatMap(([one, other]) => {
      const value = one === asked ? figures[other] : undefined;
      return value === undefined ? [] : [value];
    }),
  );

/** A slip that does something to the figure that is right. */
export const changed = (
  texts: Texts,
  applies: (asked: string, workings: Workings) => boolean,
  change: (right: number, workings: Workings, asked: string) => readonly number[],
): ValueSlip =>
  valueSlip(texts, (asked, workings) => {
    const right = workings.figures[asked];
    return right === undefined || !applies(asked, workings) ? [] : change(right, workings, asked);
  });
