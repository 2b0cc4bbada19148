import type { GeneratorMaterial } from '../generators/generator.js';
import type { Random } from '../../foundation/random/random.js';

/** A statement about figures, and whether it holds. */
export interface GeneratedStatement {
  readonly text: string;
  readonly truth: boolean;
}

/**
 * A common reading of a figure, right or wrong. Which of its wordings a student gets is drawn, or it is computed from
 * the training rows and the same for all.
 */
export type LibraryStatement = {
  readonly key: string;
  readonly title: string;
  /** Where it is from. */
  readonly source: string;
  /** What a careful expert may object, and how the wording meets it. */
  readonly objection: string;
} & (
  | { readonly from: 'chance'; say(random: Random): GeneratedStatement }
  | { readonly from: 'data'; compute(material: GeneratorMaterial, random: Random): GeneratedStatement }
);
