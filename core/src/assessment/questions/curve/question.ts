import type { QuestionHead, SentenceValues } from '../contract/answer.js';
import type { RunCurve } from '../../material/run-curve.js';

export interface CurveQuestion extends QuestionHead {
  readonly kind: 'curve';
  readonly marks: number;
  readonly values: SentenceValues;
  /** The run whose curve the student's is compared with; null for none. */
  readonly run: string | null;
}

export interface CurveRules {
  readonly setting: string;
  /** From simple to complex. */
  readonly settings: readonly string[];
  readonly needsErrors: boolean;
  readonly says: string;
}

export interface CurveKey {
  readonly curve: RunCurve | null;
}
