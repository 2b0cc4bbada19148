import { at, indices } from '../../../foundation/numbers.js';
import type { AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import type { OtherRun } from '../contract/model-run.js';
import { better, leadWords, losses, reordered } from '../predictions/paired.js';

/** Standard errors by which the model must be better without the mistake: more than of files, for more ways are tried. */
const LEAD = 6;

/** A mistake that is seen by what a model says of rows given in another way. */
export interface FoundOtherwise {
  readonly slip: OtherRun['slip'];
  /** The way, and by how much it is better, for staff. */
  readonly evidence: string;
}

/**
 * The mistake without which a model would predict the training rows far better: by six paired standard errors
 * than it does, than the mean or the shares of the classes do, and than it would with labels or signs exchanged. Of several
 * the one without which it predicts best. How often one is named for another reason: `docs/verdicts.md`.
 *
 * @param training what it says of all training rows as it was handed in
 * @param otherwise what it says of the first of them given in other ways
 * @returns null where no way is far better
 */
export function foundOtherwise(
  training: Predictions,
  otherwise: readonly OtherRun[],
  answers: AnswerKey,
): FoundOtherwise | null {
  const found = otherwise.flatMap(({ slip, way, predictions }) => {
    const n = predictions.predicted.length;
    const own = { predictions: reordered(training, indices(n)), key: firstAnswers(answers, n) };
    const ahead = better(own, predictions) ?? 0;
    const others = [constant(own.predictions, own.key), oppositeOf(own.predictions, own.key)];
    const leads = others.map((other) =>
      other ? (better({ ...own, predictions: other }, predictions) ?? 0) : Infinity,
    );
    const loss = losses(predictions, own.key).reduce((a, b) => a + b, 0);
    return Math.min(ahead, ...leads) > LEAD ? [{ slip, way, ahead, loss }] : [];
  });
  const [best] = found.sort((a, b) => a.loss - b.loss);
  return best
    ? { slip: best.slip, evidence: `with ${best.way} it is ${leadWords(best.ahead)} on the training rows` }
    : null;
}

const firstAnswers = (key: AnswerKey, n: number): AnswerKey => ({
  ...key,
  classes: key.classes?.slice(0, n) ?? null,
  values: key.values?.slice(0, n) ?? null,
  groups: key.groups?.slice(0, n) ?? null,
});

/** What is said of every row without a model: the mean, the shares of the classes, or the commonest of them. */
function constant(predictions: Predictions, { values, classes, labels }: AnswerKey): Predictions {
  if (predictions.kind === 'numbers')
    return {
      kind: 'numbers',
      predicted: predictions.predicted.map(() => mean(values ?? new Float64Array())),
    };
  const counts = labels.map((_, code) => (classes ?? new Int32Array()).filter((one) => one === code).length);
  const { predicted, probabilities } = predictions;
  return {
    ...predictions,
    predicted: predicted.map(() => counts.indexOf(Math.max(...counts))),
    probabilities:
      probabilities?.map((of, code) => of.map(() => at(counts, code) / predicted.length)) ?? null,
  };
}

/** The other one of two labels, or numbers mirrored about the mean of the truth; null of more labels. */
function oppositeOf(predictions: Predictions, { values, labels }: AnswerKey): Predictions | null {
  if (predictions.kind === 'numbers') {
    const [truth, own] = [mean(values ?? new Float64Array()), mean(predictions.predicted)];
    return { kind: 'numbers', predicted: predictions.predicted.map((value) => truth - (value - own)) };
  }
  if (labels.length !== 2) return null;
  const { predicted, probabilities } = predictions;
  return {
    ...predictions,
    predicted: predicted.map((code) => 1 - code),
    probabilities: probabilities && [at(probabilities, 1), at(probabilities, 0)],
  };
}

const mean = (values: Float64Array): number => values.reduce((a, b) => a + b, 0) / values.length;
