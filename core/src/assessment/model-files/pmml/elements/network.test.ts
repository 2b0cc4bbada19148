import { describe, expect, it } from '@jest/globals';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../../../test/pmml.js';

const close = (values: readonly unknown[], wanted: readonly number[], digits = 9) =>
  wanted.forEach((value, i) => expect(Number(values[i])).toBeCloseTo(value, digits));

describe('<NeuralNetwork>', () => {
  const network = (activation: string, more = '') => {
    const fields: Fields = { a: 'number', b: 'number', y: 'number' };
    const input = (name: string, i: number) =>
      `<NeuralInput id="0,${i}"><DerivedField optype="continuous" dataType="double"><FieldRef field="${name}"/></DerivedField></NeuralInput>`;
    return pmmlText(
      fields,
      `<NeuralNetwork functionName="regression" activationFunction="${activation}" ${more}>${schemaOf(fields)}<NeuralInputs>${input('a', 0)}${input('b', 1)}</NeuralInputs>
      <NeuralLayer><Neuron id="1,0" bias="0.5"><Con from="0,0" weight="1"/><Con from="0,1" weight="-2"/></Neuron></NeuralLayer>
      <NeuralOutputs><NeuralOutput outputNeuron="1,0"><DerivedField optype="continuous" dataType="double"><FieldRef field="y"/></DerivedField></NeuralOutput></NeuralOutputs></NeuralNetwork>`,
    );
  };
  const z = 0.5 + 1 - 2 * 0.3;

  it.each([
    ['logistic', 1 / (1 + Math.exp(-z))],
    ['tanh', Math.tanh(z)],
    ['identity', z],
    ['exponential', Math.exp(z)],
    ['reciprocal', 1 / z],
    ['square', z * z],
    ['Gauss', Math.exp(-z * z)],
    ['sine', Math.sin(z)],
    ['cosine', Math.cos(z)],
    ['Elliott', z / (1 + z)],
    ['arctan', (2 * Math.atan(z)) / Math.PI],
    ['rectifier', z],
    ['threshold', 1],
  ])('activates by %s', async (activation, wanted) => {
    close((await predicted(network(activation), 'a,b\n1,0.3\n')).values, [wanted]);
  });

  it('takes radial bases by width and altitude', async () => {
    const text = network('radialBasis', 'width="2" altitude="1.5"');
    const squares = (1 - 1) ** 2 + (-2 - 0.3) ** 2;
    close((await predicted(text, 'a,b\n1,0.3\n')).values, [1.5 ** 2 * Math.exp(-squares / 8)]);
  });
});
