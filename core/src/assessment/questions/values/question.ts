import type { QuestionHead } from '../contract/answer.js';
import { asksNames, type Asked, type GeneratedItem } from '../../generators/generator.js';
import type { Plan } from '../../../data/sentence/sentence.js';

export interface ValuesQuestion extends QuestionHead {
  readonly kind: 'values';
  readonly marks: number;
  /** What is computed. */
  readonly figures: Plan;
  readonly tolerance: Plan;
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
export const withoutKey = (asked: Asked): FigureAsked => ({
  key: asked.key,
  name: asked.name,
  convention: asked.convention,
  ...(asksNames(asked) ? { choices: asked.choices, several: asked.several } : {}),
});

export interface ValuesRules {
  readonly figures: Plan;
  /** Computed from the data: the same for all students, without the figures. Null where each student's are drawn. */
  readonly computed:
    (Pick<GeneratedItem, 'given' | 'table'> & { readonly asked: readonly FigureAsked[] }) | null;
  readonly says: string;
}

export interface ValuesKey {
  /** Null where each student's are drawn. */
  readonly computed: GeneratedItem | null;
}
