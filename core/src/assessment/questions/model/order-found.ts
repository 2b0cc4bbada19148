import { at, indices } from '../../../foundation/numbers.js';
import type { AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import type { OtherOrder } from '../contract/model-run.js';
import { better, leadWords, reordered } from '../predictions/paired.js';

/**
 * Whether a model predicts the training rows far better with its columns in another order: by three and a half paired
 * standard errors than it does, than the mean or the shares of the classes do, which a model without its scaling does not
 * reach by chance, and than it would with labels or signs exchanged.
 *
 * @param training what it says of all training rows as it was handed in
 * @param orders what it says of the first of them in other orders
 * @returns the order, and by how much it is better; null where none is
 */
export function orderFound(
  training: Predictions,
  orders: readonly OtherOrder[],
  answers: AnswerKey,
): string | null {
  const found = orders.flatMap(({ name, predictions }) => {
    const n = predictions.predicted.length;
    const own = { predictions: reordered(training, indices(n)), key: firstAnswers(answers, n) };
    const ahead = better(own, predictions);
    if (ahead === null) return [];
    const others = [constant(own.predictions, own.key), oppositeOf(own.predictions, own.key)];
    const isBest = others.every((other) => !other || better({ ...own, predictions: other }, predictions));
    return isBest ? [{ name, ahead }] : [];
  });
  const [best] = found.sort((a, b) => b.ahead - a.ahead);
  return best ? `with its columns ${best.name} it is ${leadWords(best.ahead)} on the training rows` : null;
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
