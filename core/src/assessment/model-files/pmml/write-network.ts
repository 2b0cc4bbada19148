import { at } from '../../../foundation/numbers.js';
import type { Fitted } from '../../../models/fitted.js';
import type { NetworkState } from '../../../models/network/network-form.js';
import { tag } from './tag.js';

/**
 * A neural network. Its inputs are standardised as the training rows were.
 *
 * @param schema the model's schema, which fills missing cells
 */
export function neuralNetwork(fitted: Fitted, state: NetworkState, schema: string): string {
  const { labels, recipe, target } = fitted;
  const isOfClasses = state.classes > 0;
  const columns = recipe.features.flatMap((feature): string[] => {
    if (feature.kind === 'number') return [tag('FieldRef', { field: feature.name })];
    if (feature.kind === 'words') return [];
    return feature.levels.slice(1).map((value) => tag('NormDiscrete', { field: feature.name, value }));
  });
  const inputs = columns.map((column, c) => {
    const centred = apply('-', column, constant(at(state.means, c)));
    const scaled = apply('/', centred, constant(at(state.deviations, c)));
    return tag('NeuralInput', { id: idOf(0, c) }, [derived(scaled)]);
  });
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
    tag('NeuralOutput', { outputNeuron: idOf(last + 1, neuron) }, [derived(body, isOfClasses)]);
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

const constant = (value: number): string => tag('Constant', { dataType: 'double' }, [String(value)]);

const apply = (name: string, ...of: readonly string[]): string => tag('Apply', { function: name }, of);

const derived = (body: string, isOfClasses = false): string =>
  tag(
    'DerivedField',
    isOfClasses
      ? { optype: 'categorical', dataType: 'string' }
      : { optype: 'continuous', dataType: 'double' },
    [body],
  );

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
