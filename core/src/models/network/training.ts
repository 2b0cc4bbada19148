import { at } from '../../foundation/numbers.js';
import { shuffle, type Random } from '../../foundation/random/random.js';
import { addDecay, differ, drop, gatherRows, lossOf, multiply, weightOf, type NetworkRows } from './batch.js';
import {
  activate,
  addGradients,
  backward,
  deactivate,
  forward,
  toShares,
  type Activation,
  type Layer,
} from './layers.js';
import { Adam, gradientDescent, type Optimiser } from './optimiser.js';

export interface NetworkOptions {
  readonly layers: readonly number[];
  readonly activation: Activation;
  /** Outputs are numbers, judged by squared error, or scores of classes, judged by cross-entropy. */
  readonly isNumbers: boolean;
  readonly epochs: number;
  /** Rows of a batch. */
  readonly batch: number;
  readonly rate: number;
  readonly optimiser: 'adam' | 'gradient';
  /** Half of it times the sum of the squared weights is added to the loss of a batch, per row. */
  readonly decay: number;
  /** Share of the units of hidden layers that are left out of each step. */
  readonly dropout: number;
  /** Epochs without a lower loss of the held-out rows after which it stops. */
  readonly patience: number;
}

export interface TrainedNetwork {
  readonly layers: readonly Layer[];
  readonly training: readonly number[];
  /** Null where no rows are held out. */
  readonly heldOut: readonly number[] | null;
  /** The epoch after which the loss was no longer a number; null where it always was. */
  readonly diverged: number | null;
  /** Epochs that the network which is kept was trained for. */
  readonly epochs: number;
}

/** Weights drawn evenly within √(6 / (inputs + outputs)) (Glorot and Bengio, 2010); biases likewise, as scikit-learn has it. */
function drawLayers(sizes: readonly number[], random: Random): Layer[] {
  return sizes.slice(1).map((outputs, l) => {
    const inputs = at(sizes, l);
    const bound = Math.sqrt(6 / (inputs + outputs));
    const draw = (count: number) =>
      Float64Array.from({ length: count }, () => bound * (2 * random.unit() - 1));
    return { inputs, outputs, weights: draw(inputs * outputs), biases: draw(outputs) };
  });
}

const numbersOf = (layers: readonly Layer[]): Float64Array[] =>
  layers.flatMap(({ weights, biases }) => [weights, biases]);

const copied = (layers: readonly Layer[]): Layer[] =>
  layers.map((layer) => ({ ...layer, weights: layer.weights.slice(), biases: layer.biases.slice() }));

/** A network while it is trained, with room for one batch. */
class Trainee {
  readonly layers: readonly Layer[];
  /** What goes into each layer, and what comes out of the last. */
  private readonly values: Float64Array[];
  private readonly deltas: Float64Array[];
  /** Units that are kept, where some are left out, and what they gave before. */
  private readonly masks: Float64Array[];
  private readonly activated: Float64Array[];
  private readonly gradients: Float64Array[];
  private readonly optimiser: Optimiser;

  constructor(
    inputs: number,
    outputs: number,
    batch: number,
    private readonly options: NetworkOptions,
    private readonly random: Random,
  ) {
    const sizes = [inputs, ...options.layers, outputs];
    this.layers = drawLayers(sizes, random);
    this.values = sizes.map((size) => new Float64Array(size * batch));
    this.deltas = sizes.map((size) => new Float64Array(size * batch));
    const room = () => options.layers.map((size) => new Float64Array(options.dropout > 0 ? size * batch : 0));
    this.masks = room();
    this.activated = room();
    this.gradients = numbersOf(this.layers).map((own) => new Float64Array(own.length));
    this.optimiser =
      options.optimiser === 'adam'
        ? new Adam(
            options.rate,
            this.gradients.map(({ length }) => length),
          )
        : gradientDescent(options.rate);
  }

  /** Sets the outputs of a batch. */
  private run(
    rows: NetworkRows,
    order: Int32Array,
    from: number,
    count: number,
    dropout: number,
  ): Float64Array {
    const { values, layers, options } = this;
    const width = at(layers, 0).inputs;
    gatherRows(rows.inputs, order, from, count, width, at(values, 0));
    layers.forEach((layer, l) => {
      const out = at(values, l + 1);
      forward(layer, at(values, l), count, out);
      if (l === layers.length - 1) return;
      activate(out, count * layer.outputs, options.activation);
      if (dropout === 0) return;
      at(this.activated, l).set(out);
      drop(out, at(this.masks, l), count * layer.outputs, dropout, this.random);
    });
    const out = at(values, layers.length);
    if (!options.isNumbers) toShares(out, count, at(layers, layers.length - 1).outputs);
    return out;
  }

  /** One step along the gradient of a batch. @returns the loss times the weight of its rows, and the weight */
  step(rows: NetworkRows, order: Int32Array, from: number, count: number): { loss: number; weight: number } {
    const { layers, options, gradients, deltas, values } = this;
    const said = this.run(rows, order, from, count, options.dropout);
    const outputs = at(layers, layers.length - 1).outputs;
    const loss = lossOf(said, rows, order, from, count, outputs, options.isNumbers);
    const weight = weightOf(rows.weights, order, from, count);
    if (weight === 0) return { loss: 0, weight };
    // Of squared error and of cross-entropy alike the slope is what is said less what is true.
    differ(said, rows, order, from, count, outputs, at(deltas, layers.length), weight);
    for (const own of gradients) own.fill(0);
    for (let l = layers.length - 1; l >= 0; l--) {
      const layer = at(layers, l);
      addGradients(
        layer,
        at(values, l),
        at(deltas, l + 1),
        count,
        at(gradients, 2 * l),
        at(gradients, 2 * l + 1),
      );
      addDecay(layer.weights, at(gradients, 2 * l), options.decay / weight);
      if (l === 0) continue;
      backward(layer, at(deltas, l + 1), count, at(deltas, l));
      const length = count * layer.inputs;
      if (options.dropout > 0) multiply(at(deltas, l), at(this.masks, l - 1), length);
      const gave = options.dropout > 0 ? at(this.activated, l - 1) : at(values, l);
      deactivate(at(deltas, l), gave, length, options.activation);
    }
    this.optimiser.step(numbersOf(layers), gradients);
    return { loss, weight };
  }

  /** Loss per unit of weight of rows as the network is. */
  lossOn(rows: NetworkRows, order: Int32Array, batch: number): number {
    let [loss, weight] = [0, 0];
    const outputs = at(this.layers, this.layers.length - 1).outputs;
    for (let from = 0; from < rows.count; from += batch) {
      const count = Math.min(batch, rows.count - from);
      const said = this.run(rows, order, from, count, 0);
      loss += lossOf(said, rows, order, from, count, outputs, this.options.isNumbers);
      weight += weightOf(rows.weights, order, from, count);
    }
    return loss / weight;
  }
}

/** Trains a network; the rows come in another order in every epoch. */
export function trainNetwork(
  rows: NetworkRows,
  held: NetworkRows | null,
  outputs: number,
  options: NetworkOptions,
  random: Random,
): TrainedNetwork {
  const batch = Math.max(1, Math.min(options.batch, rows.count));
  const trainee = new Trainee(rows.inputs.length / rows.count, outputs, batch, options, random);
  const order = Int32Array.from({ length: rows.count }, (_, row) => row);
  const heldOrder = Int32Array.from({ length: held?.count ?? 0 }, (_, row) => row);
  const training: number[] = [];
  const heldOut: number[] = [];
  let best = { loss: Infinity, epochs: 0, layers: copied(trainee.layers) };
  let last = best.layers;
  const done = (layers: readonly Layer[], epochs: number, diverged: number | null): TrainedNetwork => ({
    layers,
    training,
    heldOut: held ? heldOut : null,
    diverged,
    epochs,
  });
  for (let epoch = 1; epoch <= options.epochs; epoch++) {
    shuffle(order, random);
    let [loss, weight] = [0, 0];
    for (let from = 0; from < rows.count; from += batch) {
      const step = trainee.step(rows, order, from, Math.min(batch, rows.count - from));
      loss += step.loss;
      weight += step.weight;
    }
    const own = held ? trainee.lossOn(held, heldOrder, batch) : 0;
    const isFinite = numbersOf(trainee.layers).every((numbers) => numbers.every(Number.isFinite));
    if (!Number.isFinite(loss) || !Number.isFinite(own) || !isFinite)
      return done(held ? best.layers : last, held ? best.epochs : epoch - 1, epoch);
    training.push(loss / weight);
    if (!held) {
      if (epoch < options.epochs) last = copied(trainee.layers);
      continue;
    }
    heldOut.push(own);
    if (own < best.loss) best = { loss: own, epochs: epoch, layers: copied(trainee.layers) };
    else if (epoch - best.epochs >= options.patience) break;
  }
  return held ? done(best.layers, best.epochs, null) : done(trainee.layers, options.epochs, null);
}
