import type { Material } from '../material/material.js';
import { type Question } from '../questions/question.js';
import { type EarlierRelease } from '../releases/compare-releases.js';
import { type BriefHead } from './brief.js';

export interface PackRequest extends Omit<Material, 'division'>, BriefHead {
  /** What the reserve says of each row of the table already; 0 where it says nothing. */
  readonly reserve: Uint8Array;
  /** Releases that may share rows with this one. */
  readonly earlier: readonly EarlierRelease[];
  readonly questions: readonly Question[];
  /** What columns mean, by their names. */
  readonly descriptions: Readonly<Record<string, string>>;
  /** Whether rows get random identifiers in place of their own, so that nobody finds them in a source they know. */
  readonly reissued: boolean;
}

/** With what each held-out row is for. */
export type DividedRequest = PackRequest & Pick<Material, 'division'>;
