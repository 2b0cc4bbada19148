import type { QuestionHead } from '../contract/answer.js';
import { asksNames, type Asked, type GeneratedItem } from '../../generators/generator.js';
import type { Plan } from '../../../data/sentence/sentence.js';

export interface ValuesQuestion extends QuestionHead {
  readonly kind: 'values';
  readonly marks: number;
  /** What is computed. */
  readonly figures: Plan;
  readonly tolerance: Plan;
  /** Parts of the training rows of which each student gets one to compute from; all rows where left out. */
  readonly samples?: number;
}

/** A figure that is asked for, without its value. */
export interface FigureAsked {
  readonly key: string;
  readonly name: string;
  /** Left out in rules of earlier versions. */
  readonly convention?: string | null;
  /** Where names are asked for: those that can be chosen, and whether any number of them. */
  readonly choices?: readonly string[];
  readonly several?: boolean;
}

/** What of something asked for a student may know. */
const withoutKey = (asked: Asked): FigureAsked => ({
  key: asked.key,
  name: asked.name,
  convention: asked.convention,
  ...(asksNames(asked) ? { choices: asked.choices, several: asked.several } : {}),
});

/** What is computed from data, without the figures. */
export type ComputedAsked = Pick<GeneratedItem, 'given' | 'table'> & {
  readonly asked: readonly FigureAsked[];
};

export const askedOnly = ({ given, table, asked }: GeneratedItem): ComputedAsked => ({
  given,
  table,
  asked: asked.map(withoutKey),
});

export interface ValuesRules {
  readonly figures: Plan;
  /** Computed from the data: the same for all students, without the figures. Null where each student's are others. */
  readonly computed: ComputedAsked | null;
  /** The same of each part of the training rows; left out where none are made. */
  readonly samples?: readonly ComputedAsked[];
  readonly says: string;
}

export interface ValuesKey {
  /** Null where each student's are others. */
  readonly computed: GeneratedItem | null;
  /** Of each part of the training rows; left out where none are made. */
  readonly samples?: readonly GeneratedItem[];
}
