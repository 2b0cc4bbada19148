import { describe, expect, it } from '@jest/globals';
import { breastCancer, diabetes, iris, tableOf, testFile } from '../../../test/files.js';
import { fit, modelCase, request } from '../../../test/models.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { PlanValue } from '../../data/sentence/parameter.js';
import { figureOf } from '../../metrics/judged.js';
import { metricNamed } from '../../metrics/registry.js';
import { fitModel, judgedBy, predictRows } from '../fitted.js';
import { targetRows } from '../prepared/target.js';
import { addGradients, backward, forward, layersFrom, type Layer } from './layers.js';

/** Computed by test/reference/networks.py with scikit-learn, with twelve seeds. */
const { runs } = JSON.parse(new TextDecoder().decode(testFile('reference/networks.json'))) as {
  runs: {
    data: 'wine' | 'breast-cancer' | 'diabetes';
    values: Record<string, PlanValue>;
    epochs: number[];
    losses: number[][];
    scores: number[];
  }[];
};

const DATA = {
  wine: { table: modelCase('tree-wine').table, task: 'multiclass' },
  'breast-cancer': { table: breastCancer(), task: 'binary' },
  diabetes: { table: diabetes(), task: 'regression' },
} as const;

const meanOf = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
const deviationOf = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, one) => sum + (one - meanOf(values)) ** 2, 0) / (values.length - 1));

describe('a neural network', () => {
  it.each(runs)(
    'learns as scikit-learn’s does: $data, $values',
    ({ data, values, epochs, losses, scores }) => {
      const { table, task } = DATA[data];
      const seeds = [1, 2, 3];
      const curves = seeds.map(
        (seed) => fit(table, 'target', task, 'network', values, { seed }).description.growth?.training ?? [],
      );
      epochs.forEach((epoch, e) => {
        const theirs = losses.map((one) => at(one, e));
        const own = meanOf(curves.map((curve) => at(curve, epoch - 1)));
        const off = Math.abs(own - meanOf(theirs)) / Math.max(deviationOf(theirs), meanOf(theirs) / 50);
        expect({ epoch, off: off < 3 }).toEqual({ epoch, off: true });
      });
      const rows = indices(table.rowCount);
      const own = seeds.map((seed) => {
        const asked = request(table, 'target', task, 'network', values, { seed });
        return meanOf(
          [0, 1, 2, 3, 4].map((fold) => {
            const test = rows.filter((row) => row % 5 === fold);
            const fitted = fitModel({ ...asked, rows: rows.filter((row) => row % 5 !== fold) });
            const judged = judgedBy(targetRows(asked.target, test), predictRows(fitted, table, test));
            return figureOf(metricNamed(task === 'regression' ? 'mse' : 'accuracy'), judged).value ?? NaN;
          }),
        );
      });
      const least = task === 'regression' ? meanOf(scores) / 100 : 1 / table.rowCount;
      expect(Math.abs(meanOf(own) - meanOf(scores)) / Math.max(deviationOf(scores), least)).toBeLessThan(3);
    },
  );

  it('has gradients that are those of its loss', () => {
    const random = seededRandom(5);
    const draw = (count: number) => Float64Array.from({ length: count }, () => random.unit() - 0.5);
    const layer: Layer = { inputs: 3, outputs: 2, weights: draw(6), biases: draw(2) };
    const inputs = draw(12);
    const count = 4;
    const out = new Float64Array(8);
    // Half the sum of the squares: its slope by each output is the output itself.
    const loss = (own: Layer, values = inputs) => {
      forward(own, values, count, out);
      return out.reduce((sum, value) => sum + (value * value) / 2, 0);
    };
    loss(layer);
    const deltas = out.slice();
    const [weights, biases, back] = [new Float64Array(6), new Float64Array(2), new Float64Array(12)];
    addGradients(layer, inputs, deltas, count, weights, biases);
    backward(layer, deltas, count, back);
    const step = 1e-6;
    const moved = (values: Float64Array, i: number, by: number) =>
      values.map((value, k) => (k === i ? value + by : value));
    const slope = (of: (by: number) => number) => (of(step) - of(-step)) / (2 * step);
    weights.forEach((gradient, i) =>
      expect(gradient).toBeCloseTo(
        slope((by) => loss({ ...layer, weights: moved(layer.weights, i, by) })),
        6,
      ),
    );
    biases.forEach((gradient, i) =>
      expect(gradient).toBeCloseTo(
        slope((by) => loss({ ...layer, biases: moved(layer.biases, i, by) })),
        6,
      ),
    );
    back.forEach((gradient, i) =>
      expect(gradient).toBeCloseTo(
        slope((by) => loss(layer, moved(inputs, i, by))),
        6,
      ),
    );
  });

  it('says that it diverged, and is kept as it was before', () => {
    const values = { learning_rate: 10, optimiser: 'gradient', epochs: 300, layers: '8,8', decay: 1 };
    const fitted = fit(diabetes(), 'target', 'regression', 'network', values);
    expect(fitted.warnings.join(' ')).toMatch(/diverged in epoch \d+/);
    const [said] = predictRows(fitted, diabetes(), indices(442));
    expect(said?.every(Number.isFinite)).toBe(true);
    expect(fitted.description.growth?.training?.every(Number.isFinite)).toBe(true);
  });

  it('stops where a held-out part stops gaining, and keeps the best epoch', () => {
    const values = { epochs: 2000, learning_rate: 0.02, patience: 15, validation: 30, layers: '50' };
    const { description } = fit(breastCancer(), 'target', 'binary', 'network', values);
    const held = (description.growth?.heldOut?.values ?? []).map((loss) => loss ?? NaN);
    const epochs = description.figures?.['epochs'] ?? 0;
    expect(held.length).toBe(epochs + 15);
    expect(held[epochs - 1]).toBe(Math.min(...held));
  });

  it.each(['relu', 'tanh'])('learns with dropout too, more slowly (%s)', (activation) => {
    const curve = (dropout: number) =>
      fit(iris(), 'target', 'multiclass', 'network', {
        epochs: 60,
        learning_rate: 0.02,
        batch: 20,
        dropout,
        activation,
      }).description.growth?.training ?? [];
    const [without, withIt] = [curve(0), curve(40)];
    expect(withIt.at(-1)).toBeLessThan(0.5 * (withIt[0] ?? 0));
    expect(withIt.at(-1)).toBeGreaterThan(without.at(-1) ?? Infinity);
  });

  it('takes rows that weigh twice as much all alike for what they are, and leaves those out that weigh nothing', () => {
    const said = (weights: Float64Array) =>
      predictRows(
        fit(iris(), 'target', 'multiclass', 'network', { epochs: 5, decay: 0 }, { weights }),
        iris(),
        indices(150),
      );
    const [one, two] = [said(new Float64Array(150).fill(1)), said(new Float64Array(150).fill(2))];
    one.forEach((column, k) => column.forEach((share, row) => expect(two[k]?.[row]).toBeCloseTo(share, 9)));
    // Nothing changes where rows that weigh nothing are left out.
    const some = Float64Array.from({ length: 150 }, (_, row) => (row % 2 === 0 ? 1 : 0));
    const left = fit(iris(), 'target', 'multiclass', 'network', { epochs: 5, decay: 0 }, { weights: some });
    const rows = indices(150).filter((row) => row % 2 === 0);
    const alone = fit(iris(), 'target', 'multiclass', 'network', { epochs: 5, decay: 0 }, { rows });
    expect(left.description.growth?.training).toHaveLength(5);
    left.description.growth?.training?.forEach((loss, epoch) =>
      expect(loss).toBeCloseTo(alone.description.growth?.training?.[epoch] ?? NaN, 9),
    );
  });

  it('draws one network from one seed', () => {
    const said = (seed: number) =>
      predictRows(
        fit(iris(), 'target', 'multiclass', 'network', { epochs: 3 }, { seed }),
        iris(),
        indices(150),
      );
    expect(said(1)).toEqual(said(1));
    expect(said(1)).not.toEqual(said(2));
  });

  it('takes its layers from a text, and refuses others by name', () => {
    expect(layersFrom('20, 10')).toEqual([20, 10]);
    for (const text of ['', '20,', '0', '3.5', 'many', '5000', '1,1,1,1,1,1,1'])
      expect(() => layersFrom(text)).toThrow(/Layers are whole numbers|at most 6/);
    const table = tableOf('x,y\n1,1\n2,2\n3,3\n');
    expect(() => fit(table, 'y', 'regression', 'network', { layers: 'wide' })).toThrow('“wide”');
  });
});
