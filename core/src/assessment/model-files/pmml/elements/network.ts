import { at } from '../../../../foundation/numbers.js';
import { begin } from '../begun.js';
import { inverseNorm } from '../expressions.js';
import { derivedField } from '../fields.js';
import {
  type Classes,
  type Context,
  likeliestOf,
  normalised,
  NOTHING,
  type Score,
  type Scorer,
  softmax,
} from '../model.js';
import { type Get, numberFrom } from '../row.js';
import {
  childrenOf,
  type Element,
  needed,
  neededChild,
  numberOf,
  oneOf,
  refused,
  unsupported,
} from '../xml.js';

const ACTIVATIONS = {
  logistic: (z: number) => 1 / (1 + Math.exp(-z)),
  tanh: Math.tanh,
  identity: (z: number) => z,
  exponential: Math.exp,
  reciprocal: (z: number) => 1 / z,
  square: (z: number) => z * z,
  Gauss: (z: number) => Math.exp(-z * z),
  sine: Math.sin,
  cosine: Math.cos,
  Elliott: (z: number) => z / (1 + Math.abs(z)),
  arctan: (z: number) => (2 * Math.atan(z)) / Math.PI,
  rectifier: (z: number) => Math.max(0, z),
} as const;
const NAMES = [
  ...(Object.keys(ACTIVATIONS) as (keyof typeof ACTIVATIONS)[]),
  'threshold',
  'radialBasis',
] as const;
const NORMALISATIONS = ['none', 'simplemax', 'softmax'] as const;

interface Layer {
  /** From the values of the layers before, by place, to those of this one. */
  readonly neurons: readonly ((values: Float64Array) => number)[];
  readonly first: number;
  readonly normalise: (values: Float64Array) => Float64Array;
}

/** <NeuralNetwork>: layers of neurons with every activation of PMML 4.4. */
export function neuralNetwork(element: Element, context: Context): Scorer {
  const { scope, isClassification, classes } = begin(element, context);
  const places = new Map<string, number>();
  const place = (id: string, line: number) => {
    if (places.has(id)) throw refused(`The neuron “${id}” is there twice.`, line);
    places.set(id, places.size);
  };
  const inputs = childrenOf(neededChild(element, 'NeuralInputs'), 'NeuralInput').map((input): Get => {
    place(needed(input, 'id'), input.line);
    return derivedField(needed(input, 'id'), neededChild(input, 'DerivedField'), scope).get;
  });
  const layers = childrenOf(element, 'NeuralLayer').map((layer) => layerOf(layer, element, places, place));
  const outputs = outputsOf(element, places);
  const size = places.size;
  const ofClasses = isClassification ? classOutputs(outputs, classes, element) : null;
  return {
    isClassification,
    classes: isClassification ? classes : null,
    score(row): Score {
      const values = new Float64Array(size);
      for (let i = 0; i < inputs.length; i++) {
        const value = numberFrom(at(inputs, i)(row));
        if (value === null) return NOTHING;
        values[i] = value;
      }
      for (const { neurons, first, normalise } of layers) {
        const own = Float64Array.from(neurons, (neuron) => neuron(values));
        values.set(normalise(own), first);
      }
      if (ofClasses) return ofClasses(values);
      const { neuron, map } = at(outputs, 0);
      return { value: map(values[neuron] ?? NaN), shares: null };
    },
  };
}

function layerOf(
  layer: Element,
  network: Element,
  places: ReadonlyMap<string, number>,
  place: (id: string, line: number) => void,
): Layer {
  const setting = (name: string): Element => (layer.attributes[name] === undefined ? network : layer);
  const activation = oneOf(setting('activationFunction'), 'activationFunction', NAMES);
  const normalisation = oneOf(setting('normalizationMethod'), 'normalizationMethod', NORMALISATIONS, 'none');
  const threshold = numberOf(setting('threshold'), 'threshold', 0);
  const first = places.size;
  const before = new Map(places);
  const neurons = childrenOf(layer, 'Neuron').map((neuron) => {
    place(needed(neuron, 'id'), neuron.line);
    const cons = childrenOf(neuron, 'Con');
    const from = Int32Array.from(cons, (con) => {
      const source = before.get(needed(con, 'from'));
      if (source === undefined)
        throw refused(`<Con> comes from “${needed(con, 'from')}”, which is in no layer before.`, con.line);
      return source;
    });
    const weights = Float64Array.from(cons, (con) => numberOf(con, 'weight'));
    if (activation === 'radialBasis') return radialBasis(neuron, setting, from, weights);
    const bias = numberOf(neuron, 'bias', 0);
    const activate =
      activation === 'threshold' ? (z: number) => (z > threshold ? 1 : 0) : ACTIVATIONS[activation];
    return (values: Float64Array) => {
      let z = bias;
      for (let i = 0; i < from.length; i++) z += (weights[i] ?? 0) * (values[from[i] ?? 0] ?? 0);
      return activate(z);
    };
  });
  const normalise =
    normalisation === 'softmax'
      ? softmax
      : normalisation === 'simplemax'
        ? normalised
        : (v: Float64Array) => v;
  return { neurons, first, normalise };
}

/** exp(f · log altitude − Z), Z the squared distance from the weights over twice the squared width, f the number of inputs. */
function radialBasis(
  neuron: Element,
  setting: (name: string) => Element,
  from: Int32Array,
  weights: Float64Array,
): (values: Float64Array) => number {
  const own = (name: string) => (neuron.attributes[name] === undefined ? setting(name) : neuron);
  const width = numberOf(own('width'), 'width');
  const altitude = numberOf(own('altitude'), 'altitude', 1);
  if (width <= 0 || altitude <= 0)
    throw refused('Width and altitude of a radial basis are above 0.', neuron.line);
  return (values) => {
    let squares = 0;
    for (let i = 0; i < from.length; i++) squares += ((weights[i] ?? 0) - (values[from[i] ?? 0] ?? 0)) ** 2;
    return Math.exp(from.length * Math.log(altitude) - squares / (2 * width ** 2));
  };
}

interface Output {
  readonly neuron: number;
  /** The class that it stands for; null for numbers. */
  readonly label: string | null;
  readonly map: (value: number) => number;
}

function outputsOf(element: Element, places: ReadonlyMap<string, number>): Output[] {
  const outputs = childrenOf(neededChild(element, 'NeuralOutputs'), 'NeuralOutput').map((output): Output => {
    const neuron = places.get(needed(output, 'outputNeuron'));
    if (neuron === undefined)
      throw refused(
        `<NeuralOutput> names a neuron that is not there: “${needed(output, 'outputNeuron')}”.`,
        output.line,
      );
    const [body] = neededChild(output, 'DerivedField').children;
    const same = (value: number) => value;
    if (!body) throw unsupported(output);
    switch (body.name) {
      case 'FieldRef':
        return { neuron, label: null, map: same };
      case 'NormContinuous':
        return { neuron, label: null, map: inverseNorm(body) };
      case 'NormDiscrete':
        return { neuron, label: needed(body, 'value'), map: same };
      default:
        throw unsupported(body);
    }
  });
  if (outputs.length === 0) throw refused('<NeuralOutputs> has no <NeuralOutput>.', element.line);
  return outputs;
}

/** Shares of classes from their neurons; one of two classes that has no neuron has the rest. */
function classOutputs(
  outputs: readonly Output[],
  classes: Classes,
  element: Element,
): (values: Float64Array) => Score {
  const own = outputs.map(({ neuron, label }) => {
    if (label === null) throw refused('A <NeuralOutput> of a classification names no class.', element.line);
    return { neuron, place: classes.place(label) };
  });
  const without = classes.labels.map((_, i) => i).filter((i) => own.every(({ place }) => place !== i));
  return (values) => {
    const shares = new Float64Array(classes.labels.length);
    for (const { neuron, place } of own) shares[place] = values[neuron] ?? 0;
    const [rest] = without;
    if (own.length === 1 && without.length === 1 && rest !== undefined)
      shares[rest] = 1 - (shares[at(own, 0).place] ?? 0);
    return likeliestOf(shares, classes);
  };
}
