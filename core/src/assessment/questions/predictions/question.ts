import type { QuestionHead } from '../contract/answer.js';
import type { PredictionRules } from '../../files/rules.js';
import type { MarkScheme } from '../../marking/scheme.js';

export interface PredictionsQuestion extends QuestionHead {
  readonly kind: 'predictions';
  readonly metric: string;
  readonly scheme: MarkScheme;
}

export interface PredictionsRules extends PredictionRules {
  readonly metric: string;
  readonly scheme: MarkScheme;
}
