import type { QuestionHead } from '../contract/answer.js';
import type { GeneratedItem } from '../../generators/generator.js';
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
}

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
