import { create, toBinary } from '@bufbuild/protobuf';
import { describe, expect, it } from '@jest/globals';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom, type Random } from '../../../foundation/random/random.js';
import type { AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { otherOrders } from '../../model-files/column-orders.js';
import { ML } from '../../model-files/onnx/graph-builder.js';
import {
  AttributeProto_AttributeType,
  ModelProtoSchema,
  TensorProto_DataType,
} from '../../model-files/onnx/schema.js';
import { handed, normal, question, yields } from './models-of-tests.js';
import { foundOtherwise } from './found-otherwise.js';

/** A logistic model in ONNX that takes a matrix: columns have their places, and no names. */
function matrixModel(weights: readonly number[]): Uint8Array {
  const type = (elemType: TensorProto_DataType, width: number | null) => {
    const rows = { value: { case: 'dimParam' as const, value: 'N' } };
    const columns = { value: { case: 'dimValue' as const, value: BigInt(width ?? 0) } };
    const dim = width === null ? [rows] : [rows, columns];
    return { value: { case: 'tensorType' as const, value: { elemType, shape: { dim } } } };
  };
  const floats = (name: string, values: readonly number[]) => ({
    name,
    type: AttributeProto_AttributeType.FLOATS,
    floats: [...values],
  });
  const bytes = (text: string) => new TextEncoder().encode(text);
  const model = create(ModelProtoSchema, {
    irVersion: 8n,
    opsetImport: [
      { domain: '', version: 15n },
      { domain: ML, version: 3n },
    ],
    graph: {
      name: 'model',
      node: [
        {
          opType: 'LinearClassifier',
          domain: ML,
          input: ['X'],
          output: ['label', 'probabilities'],
          attribute: [
            floats('coefficients', [...weights.map((weight) => -weight), ...weights]),
            floats('intercepts', [0, 0]),
            {
              name: 'classlabels_strings',
              type: AttributeProto_AttributeType.STRINGS,
              strings: ['no', 'yes'].map(bytes),
            },
            { name: 'post_transform', type: AttributeProto_AttributeType.STRING, s: bytes('LOGISTIC') },
          ],
        },
      ],
      input: [{ name: 'X', type: type(TensorProto_DataType.FLOAT, weights.length) }],
      output: [
        { name: 'label', type: type(TensorProto_DataType.STRING, null) },
        { name: 'probabilities', type: type(TensorProto_DataType.FLOAT, 2) },
      ],
    },
  });
  return toBinary(ModelProtoSchema, model);
}

describe('columns in another order', () => {
  const of = question({ values: { without: ['site'] } });
  const slipsOf = async (weights: readonly number[], fields: Record<string, string> = {}) => {
    const { result } = await handed(matrixModel(weights), 'model.onnx', { of, fields });
    expect(result.holds).toBe(true);
    return result.slips?.map(({ id, evidence }) => `${id}: ${evidence}`) ?? [];
  };

  it('are named where the model fits the training rows far better by name, and with what was found', async () => {
    // The pack has weight, mites, noise; the model was fitted on mites, noise, weight.
    expect(await slipsOf([-1, 0, 1.5])).toEqual([
      expect.stringMatching(
        /^columns-in-other-order: with its columns by name it is better by [\d.]+ standard errors on the training rows$/,
      ),
    ]);
  });

  it('are not named in the order of the pack, in one that was chosen by hand, or where nothing is told', async () => {
    expect(await slipsOf([1.5, -1, 0])).toEqual([]);
    const chosen = { 'column:X[1]': 'mites', 'column:X[2]': 'noise', 'column:X[3]': 'weight' };
    expect(await slipsOf([-1, 0, 1.5], chosen)).toEqual([]);
    expect(await slipsOf([0, 0, 0])).toEqual([]);
  });

  it('are named, too, in a model of the noise alone: it cannot be told from one of the weight alone, by name', async () => {
    expect(await slipsOf([0, 0, 1])).toEqual([expect.stringContaining('with its columns by name')]);
  });

  it('are not named in a model whose labels are exchanged, which another order may make right by accident', async () => {
    expect(await slipsOf([-1.5, 1, 0])).toEqual([]);
  });
});

describe('scaling that is missing', () => {
  const of = question({
    metric: 'rmse',
    scheme: { nothing: 4, most: 3, all: 2.2, mostMarks: 8, marks: 10 },
    values: { link: 'identity' },
  });
  const slipsOf = async (terms: string) => {
    const file = `term,estimate\n${terms.split(' ').join('\n')}\n`;
    const { result } = await handed(file, 'model.csv', { of, from: yields() });
    expect(result.holds).toBe(true);
    return result.slips?.map(({ id, evidence }) => `${id}: ${evidence.replace(/[\d.]+/g, '')}`) ?? [];
  };

  it('is named where a model of numbers was fitted on standardised ones, or on ones from 0 to 1', async () => {
    const says = (scaling: string) => [
      `preparation-missing: with its numbers ${scaling} it is better by  standard errors on the training rows`,
    ];
    expect(await slipsOf('(intercept),20 weight,4 mites,-2')).toEqual(says('standardised'));
    expect(await slipsOf('(intercept),13 weight,24 mites,-12')).toEqual(says('scaled to  … '));
  });

  it('is not named of a model of the numbers as they stand, nor of one that tells nothing', async () => {
    expect(await slipsOf('(intercept),-6.2 weight,1 mites,-0.08')).toEqual([]);
    expect(await slipsOf('(intercept),20')).toEqual([]);
    expect(await slipsOf('(intercept),20 weight,-4 mites,2')).toEqual([]);
  });
});

describe('orders that are tried', () => {
  const columns = ['weight', 'Mites', 'brood'].map((name) => ({ name, kind: 'number' as const }));
  const inputs = (...names: string[]) =>
    names.map((name) => ({ name, takes: 'numbers' as const, values: null }));
  const places = inputs('X[1]', 'X[2]', 'X[3]');

  it('are those in which programs put columns, each once, without that of the model', () => {
    const names = (chosen: (string | null)[]) =>
      otherOrders(places, chosen, { columns }).map(({ columns: order }) => order.join());
    // By code "Mites" is before "brood"; backwards is as by letters.
    expect(names(['weight', 'Mites', 'brood'])).toEqual(['Mites,brood,weight', 'brood,Mites,weight']);
    expect(names(['Mites', 'brood', 'weight'])).toContain('weight,Mites,brood');
    expect(names(['weight', null, 'brood'])).toEqual([]);
    expect(names(['weight', 'weight', 'brood'])).toEqual([]);
  });

  it('put numbers first and last where columns are of several kinds', () => {
    const mixed = [{ name: 'site', kind: 'category' as const }, ...columns];
    const own = mixed.map(({ name }) => name);
    expect(
      otherOrders(inputs('a', 'b', 'c', 'd'), own, { columns: mixed }).map(({ name }) => name),
    ).toContain('numbers first');
  });

  it('are none where an input has the name of a column', () => {
    expect(otherOrders(inputs('X[1]', 'brood', 'X[3]'), ['weight', 'brood', 'Mites'], { columns })).toEqual(
      [],
    );
  });
});

describe('columns in another order, of models in 200 courses,', () => {
  const ROWS = 300;
  const ORDERS = [
    [4, 3, 2, 1, 0],
    [1, 0, 3, 2, 4],
    [2, 4, 0, 1, 3],
    [3, 1, 4, 0, 2],
  ];
  const IN_PLACE = [0, 1, 2, 3, 4];

  /** Rows of five columns of other means and scales, three of which tell of the truth: a number, or one of two classes. */
  function drawn(random: Random, isNumber: boolean) {
    const scales = IN_PLACE.map(() => 10 ** (2 * random.unit() - 1));
    const means = scales.map((scale) => 3 * scale * normal(random));
    const units = scales.map(() => Float64Array.from({ length: ROWS }, () => normal(random)));
    const weights = [2, -1.5, 1, 0, 0];
    const sums = Float64Array.from(indices(ROWS), (row) =>
      weights.reduce((sum, weight, i) => sum + weight * at(at(units, i), row), isNumber ? 10 : 0),
    );
    const truth = sums.map((sum) =>
      isNumber ? sum + 2 * normal(random) : random.unit() < 1 / (1 + Math.exp(-sum)) ? 1 : 0,
    );
    const key: AnswerKey = {
      task: isNumber ? 'regression' : 'binary',
      labels: isNumber ? [] : ['no', 'yes'],
      positive: isNumber ? null : 'yes',
      classes: isNumber ? null : Int32Array.from(truth),
      values: isNumber ? truth : null,
      groups: null,
      feedback: new Uint8Array(ROWS),
    };
    /** What a linear model says; one without its scaling takes the columns as they stand in the file. */
    const says = (own: readonly number[], order: readonly number[], isScaled = true): Predictions => {
      const predicted = Float64Array.from(indices(ROWS), (row) =>
        own.reduce(
          (sum, weight, i) => {
            const column = at(order, i);
            const cell = at(means, column) + at(scales, column) * at(at(units, column), row);
            return sum + weight * (isScaled ? (cell - at(means, i)) / at(scales, i) : cell);
          },
          isNumber ? 10 : 0,
        ),
      );
      if (isNumber) return { kind: 'numbers', predicted };
      const yes = predicted.map((sum) => 1 / (1 + Math.exp(-sum)));
      return {
        kind: 'labels',
        predicted: Int32Array.from(yes, (share) => (share >= 0.5 ? 1 : 0)),
        probabilities: [yes.map((share) => 1 - share), yes],
        derived: true,
      };
    };
    return { key, weights, says };
  }

  const ordered = (predictions: Predictions) => ({
    slip: 'columns-in-other-order' as const,
    way: '',
    predictions,
  });

  it.each([
    ['numbers', true],
    ['two classes', false],
  ])('of %s are named where they were exchanged, and hardly ever for another reason', (_, isNumber) => {
    const random = seededRandom(20261202, 'orders');
    const named = { exchanged: 0, right: 0, few: 0, any: 0, unscaled: 0 };
    const N = 100;
    for (let i = 0; i < N; i++) {
      const { key, weights, says } = drawn(random, isNumber);
      const isNamed = (own: readonly number[], isScaled = true) => {
        const orders = ORDERS.map((order) => ordered(says(own, order, isScaled)));
        return Number(foundOtherwise(says(own, IN_PLACE, isScaled), orders, key) !== null);
      };
      const right = [ordered(says(weights, IN_PLACE))];
      named.exchanged += Number(foundOtherwise(says(weights, at(ORDERS, i % 4)), right, key) !== null);
      named.right += isNamed(weights);
      named.few += isNamed(weights.map((weight) => weight + 0.6 * normal(random)));
      named.any += isNamed(weights.map(() => normal(random)));
      named.unscaled += isNamed(weights, false);
    }
    expect(named.exchanged).toBeGreaterThan(0.93 * N);
    expect(named.right + named.few + named.any + named.unscaled).toBeLessThanOrEqual(0.01 * 4 * N);
  });
});
