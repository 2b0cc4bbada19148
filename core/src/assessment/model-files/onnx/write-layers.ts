import { at } from '../../../foundation/numbers.js';
import type { NetworkState } from '../../../models/network/network-form.js';
import type { Kernel } from '../../../models/vector-machine/kernel.js';
import type { MachineState } from '../../../models/vector-machine/machine-form.js';
import { softmaxOf } from './encoded.js';
import type { GraphBuilder } from './graph-builder.js';
import { TensorProto_DataType } from './schema.js';

const { DOUBLE } = TensorProto_DataType;

/** A design with each column less its mean, over its deviation. */
function standardised(
  graph: GraphBuilder,
  design: string,
  { means, deviations }: Pick<NetworkState, 'means' | 'deviations'>,
): string {
  const centred = graph.add('Sub', [design, graph.tensor(means, [means.length])]);
  return graph.add('Div', [centred, graph.tensor(deviations, [deviations.length])]);
}

/** Numbers on the scale of the target. */
function onScale(
  graph: GraphBuilder,
  values: string,
  { mean, deviation }: { mean: number; deviation: number },
) {
  const scaled = graph.add('Mul', [values, graph.tensor([deviation], [1])]);
  return graph.add('Add', [scaled, graph.tensor([mean], [1])]);
}

/**
 * A neural network.
 *
 * @param design the name of n rows of numbers, one column for each term
 * @returns the name of n rows of shares, or of one number
 */
export function network(graph: GraphBuilder, design: string, state: NetworkState): string {
  const last = state.layers.length - 1;
  const out = state.layers.reduce(
    (values, { inputs, outputs, weights, biases }, l) => {
      const product = graph.add('MatMul', [values, graph.tensor(Array.from(weights), [inputs, outputs])]);
      const sum = graph.add('Add', [product, graph.tensor(Array.from(biases), [outputs])]);
      return l === last ? sum : graph.add(state.activation === 'relu' ? 'Relu' : 'Tanh', [sum]);
    },
    standardised(graph, design, state),
  );
  if (state.classes === 0) return onScale(graph, out, state);
  return softmaxOf(graph, out, state.positive);
}

/**
 * A vector machine: the kernel of every row with every support vector, and what each decision makes of them.
 *
 * @param design the name of n rows of numbers, one column for each term
 * @returns the name of n rows of shares, or of one number
 */
export function vectorMachine(graph: GraphBuilder, design: string, state: MachineState): string {
  const { vectors, decisions, classes, kernel } = state;
  const terms = state.means.length;
  const rows = standardised(graph, design, state);
  const products = graph.add('MatMul', [
    rows,
    graph.tensor(
      Array.from({ length: terms }, (_, term) => vectors.map((vector) => vector[term] ?? 0)).flat(),
      [terms, vectors.length],
    ),
  ]);
  const squares = graph.tensor(
    vectors.map((vector) => Array.from(vector).reduce((sum, value) => sum + value * value, 0)),
    [vectors.length],
  );
  const kernels = kernelOf(graph, kernel, products, rows, squares);
  const weights = vectors.map(() => decisions.map(() => 0));
  decisions.forEach((decision, d) => {
    for (let i = 0; i < decision.vectors.length; i++)
      at(weights, decision.vectors[i] ?? 0)[d] = decision.weights[i] ?? 0;
  });
  const sums = graph.add('MatMul', [
    kernels,
    graph.tensor(weights.flat(), [vectors.length, decisions.length]),
  ]);
  const offsets = graph.tensor(
    decisions.map(({ offset }) => offset),
    [decisions.length],
  );
  const said = graph.add('Sub', [sums, offsets]);
  if (classes === 0) return onScale(graph, said, state);
  if (classes === 2) return softmaxOf(graph, said, at(decisions, 0).above);
  // Each pair of classes has a vote.
  const isAbove = graph.add('Cast', [graph.add('Greater', [said, graph.tensor([0], [1])])], { to: DOUBLE });
  const isBelow = graph.add('Sub', [graph.tensor([1], [1]), isAbove]);
  const votes = (vote: string, side: 'above' | 'below') => {
    const places = decisions.flatMap((decision) =>
      Array.from({ length: classes }, (_, label) => Number(decision[side] === label)),
    );
    return graph.add('MatMul', [vote, graph.tensor(places, [decisions.length, classes])]);
  };
  return softmaxOf(graph, graph.add('Add', [votes(isAbove, 'above'), votes(isBelow, 'below')]), null);
}

function kernelOf(
  graph: GraphBuilder,
  kernel: Kernel,
  products: string,
  rows: string,
  squares: string,
): string {
  const number = (value: number) => graph.tensor([value], [1]);
  switch (kernel.kind) {
    case 'linear':
      return products;
    case 'polynomial': {
      const scaled = graph.add('Mul', [products, number(kernel.factor)]);
      return graph.add('Pow', [graph.add('Add', [scaled, number(kernel.constant)]), number(kernel.degree)]);
    }
    case 'radial': {
      // |u − v|² = u·u + v·v − 2 u·v
      const own = graph.add('ReduceSumSquare', [rows], { axes: [1], keepdims: 1 });
      const both = graph.add('Add', [own, squares]);
      const distances = graph.add('Sub', [both, graph.add('Mul', [products, number(2)])]);
      return graph.add('Exp', [graph.add('Mul', [distances, number(-kernel.factor)])]);
    }
  }
}
