import type { DrawMaterial } from '../draws/draw.js';
import type { Random } from '../random/random.js';

/** A statement about figures, and whether it holds. */
export interface Said {
  readonly text: string;
  readonly truth: boolean;
}

/**
 * A common reading of a figure, right or wrong. Which of its wordings a student gets is drawn, or it is computed from
 * the training rows and the same for all.
 */
export type Reading = {
  readonly key: string;
  readonly title: string;
  /** Where it is from. */
  readonly source: string;
  /** What a careful expert may object, and how the wording meets it. */
  readonly objection: string;
} & (
  | { readonly from: 'chance'; say(random: Random): Said }
  | { readonly from: 'data'; compute(material: DrawMaterial, random: Random): Said }
);
