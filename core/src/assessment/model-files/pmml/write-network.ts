import { at } from '../../../foundation/numbers.js';
import type { Fitted } from '../../../models/fitted.js';
import type { NetworkState } from '../../../models/network/network-form.js';
import { tag } from './tag.js';
import { derived, standardisedColumns } from './write-expressions.js';

/**
 * A neural network. Its inputs are standardised as the training rows were.
 *
 * @param schema the model's schema, which fills missing cells
 */
export function neuralNetwork(fitted: Fitted, state: NetworkState, schema: string): string {
  const { labels, recipe, target } = fitted;
  const isOfClasses = state.classes > 0;
  const inputs = standardisedColumns(recipe, state).map(({ body }, c) =>
    tag('NeuralInput', { id: idOf(0, c) }, [derived(undefined, body)]),
  );
  const last = state.layers.length - 1;
  const isSingle = at(state.layers, last).outputs === 1;
  const layers = state.layers.map(({ inputs: from, outputs, weights, biases }, l) => {
    const neurons = Array.from({ length: outputs }, (_, o) => {
      const connections = Array.from({ length: from }, (__, i) =>
        tag('Con', { from: idOf(l, i), weight: weights[i * outputs + o] ?? 0 }),
      );
      return tag('Neuron', { id: idOf(l + 1, o), bias: biases[o] ?? 0 }, connections);
    });
    return tag('NeuralLayer', l === last ? lastLayer(isOfClasses, isSingle) : {}, neurons);
  });
  const output = (neuron: number, body: string) =>
    tag('NeuralOutput', { outputNeuron: idOf(last + 1, neuron) }, [
      isOfClasses
        ? tag('DerivedField', { optype: 'categorical', dataType: 'string' }, [body])
        : derived(undefined, body),
    ]);
  const outputs = isOfClasses
    ? (isSingle ? [at(labels, state.positive ?? 0)] : labels).map((value, o) =>
        output(o, tag('NormDiscrete', { field: target, value })),
      )
    : [output(0, fromStandardised(target, state))];
  return tag(
    'NeuralNetwork',
    {
      functionName: isOfClasses ? 'classification' : 'regression',
      activationFunction: state.activation === 'relu' ? 'rectifier' : 'tanh',
    },
    [schema, tag('NeuralInputs', {}, inputs), ...layers, tag('NeuralOutputs', {}, outputs)],
  );
}

const idOf = (layer: number, place: number): string => `${layer},${place}`;

/** Numbers come out as they are, the chance of one class by the logistic function, those of several by softmax. */
function lastLayer(isOfClasses: boolean, isSingle: boolean): Record<string, string> {
  if (!isOfClasses) return { activationFunction: 'identity' };
  return isSingle
    ? { activationFunction: 'logistic' }
    : { activationFunction: 'identity', normalizationMethod: 'softmax' };
}

/** A line through two points, which is read the other way about. */
const fromStandardised = (field: string, { mean, deviation }: NetworkState): string =>
  tag('NormContinuous', { field }, [
    tag('LinearNorm', { orig: mean, norm: 0 }),
    tag('LinearNorm', { orig: mean + deviation, norm: 1 }),
  ]);
