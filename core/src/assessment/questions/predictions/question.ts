import type { QuestionHead } from '../contract/answer.js';
import type { PredictionRules } from '../../files/rules.js';
import type { FurtherFigure, FurtherSaid } from '../scored/further.js';
import type { MarkScheme } from '../../marking/scheme.js';

export interface PredictionsQuestion extends QuestionHead {
  readonly kind: 'predictions';
  readonly metric: string;
  readonly scheme: MarkScheme;
  /** Figures beside that of `metric`, with marks of their own; left out where there are none. */
  readonly further?: readonly FurtherFigure[];
}

export interface PredictionsRules extends PredictionRules {
  readonly metric: string;
  readonly scheme: MarkScheme;
  readonly further?: readonly FurtherSaid[];
  /** Rows of the training file; left out in earlier releases. */
  readonly trainingRows?: number;
}
