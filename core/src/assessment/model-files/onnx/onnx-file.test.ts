import { create, fromBinary, toBinary, type MessageInitShape } from '@bufbuild/protobuf';
import { describe, expect, it } from '@jest/globals';
import { bytesOf, tableOf, testFile } from '../../../../test/files.js';
import { columnsFor } from '../columns.js';
import { readModel } from '../read-model.js';
import {
  ModelProtoSchema,
  TensorProto_DataLocation,
  TensorProto_DataType,
  type ModelProto,
} from './schema.js';

const FLOAT = TensorProto_DataType.FLOAT as number;
type GraphInit = NonNullable<MessageInitShape<typeof ModelProtoSchema>['graph']>;

const tensorType = (dims: readonly (number | null)[], elemType = FLOAT) => ({
  value: {
    case: 'tensorType' as const,
    value: {
      elemType,
      shape: {
        dim: dims.map((dim) =>
          dim === null
            ? { value: { case: 'dimParam' as const, value: 'N' } }
            : { value: { case: 'dimValue' as const, value: BigInt(dim) } },
        ),
      },
    },
  },
});
const input = (name: string, dims: readonly (number | null)[] = [null, 1], type = FLOAT) => ({
  name,
  type: tensorType(dims, type),
});

/** An ONNX file that gives back what it is given, but for what a test changes. */
const onnx = (graph: Partial<GraphInit> = {}, change: (model: ModelProto) => void = () => undefined) => {
  const model = create(ModelProtoSchema, {
    irVersion: 8n,
    opsetImport: [{ domain: '', version: 15n }],
    graph: {
      name: 'g',
      node: [{ opType: 'Identity', input: ['x'], output: ['y'] }],
      input: [input('x')],
      output: [{ name: 'y', type: tensorType([null, 1]) }],
      ...graph,
    } as GraphInit,
  });
  change(model);
  return toBinary(ModelProtoSchema, model);
};
const read = (bytes: Uint8Array, columns: readonly string[] = ['x']) =>
  readModel(bytes, 'model.onnx', { columns });
const predict = async (bytes: Uint8Array, csv: string) => {
  const table = tableOf(csv);
  const columns = table.columns.map(({ name }) => name);
  const model = read(bytes, columns);
  return model.predict(table, columnsFor(model.inputs, columns));
};
const node = (opType: string, more: object = {}) => ({ opType, input: ['x'], output: ['y'], ...more });

describe('an ONNX file', () => {
  it('is run in batches, and says what it is', async () => {
    const n = 10_001;
    const csv = `x\n${Array.from({ length: n }, (_, i) => i).join('\n')}\n`;
    const { values } = await predict(onnx(), csv);
    expect([values.length, values[0], values[n - 1]]).toEqual([n, 0, n - 1]);
    expect(read(onnx())).toMatchObject({
      outline: 'Identity · 1 operator, 0 numbers',
      inputs: [{ name: 'x', takes: 'numbers' }],
    });
  });

  it('with maps inside is edited: labels are kept and the input of the map becomes the output', () => {
    const model = read(testFile('models/onnx-logistic-cancer/model.onnx'), []);
    expect(model.outline).toContain('ZipMap');
    expect(model.inputs.map(({ name }) => name).slice(0, 2)).toEqual(['X[1]', 'X[2]']);
    expect(model.inputs).toHaveLength(30);
  });

  it('gives no prediction where it gives no finite number', async () => {
    const { values, problems } = await predict(onnx({ node: [node('Log')] as never }), 'x\n1\n0\n-1\n');
    expect(values).toEqual([0, null, null]);
    expect(problems.map(({ row }) => row)).toEqual([1, 2]);
  });

  it.each([
    ['a loop', { node: [node('Loop')] }, 'The operator Loop is not supported: it may never end'],
    [
      'a loop in a branch',
      {
        node: [node('If', { attribute: [{ name: 'then_branch', g: { node: [node('Loop')] } }] })],
      },
      'The operator Loop',
    ],
    [
      'a tensor in another file',
      {
        initializer: [
          { name: 'w', dims: [1n], dataType: FLOAT, dataLocation: TensorProto_DataLocation.EXTERNAL },
        ],
      },
      'The tensor “w” is in another file',
    ],
    [
      'a tensor of terabytes',
      { initializer: [{ name: 'w', dims: [1_000_000n, 1_000_000n], dataType: FLOAT, floatData: [1] }] },
      'which the file does not hold',
    ],
    [
      '10,000 inputs',
      { input: Array.from({ length: 10_000 }, (_, i) => input(`x${i}`)) },
      'more than 5,000 inputs',
    ],
    ['no input', { input: [] }, 'has no input'],
    [
      'an input of complex numbers',
      { input: [input('x', [null, 1], TensorProto_DataType.COMPLEX64)] },
      'COMPLEX64',
    ],
    ['an input of three dimensions', { input: [input('x', [null, 2, 3])] }, 'has 3 dimensions'],
    [
      'an operator of another domain',
      { node: [node('Anything', { domain: 'com.other' })] },
      'Anything of “com.other”',
    ],
    [
      '50,001 operators',
      { node: Array.from({ length: 50_001 }, () => node('Identity')) },
      'more than 50,000 operators',
    ],
  ])('with %s is refused before anything is run', (_, graph, message) => {
    expect(() => read(onnx(graph as never))).toThrow(message);
  });

  it.each([
    ['is cut off', testFile('models/onnx-tree-wine/model.onnx').slice(0, 900), 'cut off'],
    ['is text', bytesOf('not a model at all'), 'no ONNX model'],
    ['is an archive', new Uint8Array([0x50, 0x4b, 3, 4, 0, 0]), 'is an archive (zip)'],
    ['is empty', new Uint8Array(), 'is empty'],
  ])('that %s is refused', (_, bytes, message) => {
    expect(() => read(bytes)).toThrow(message);
  });

  it.each([
    ['an operator that is not there', onnx({ node: [node('Nonsense')] as never }), 'cannot be loaded'],
    [
      'shapes that do not fit',
      onnx({
        node: [node('MatMul', { input: ['x', 'w'] })] as never,
        initializer: [{ name: 'w', dims: [3n, 1n], dataType: FLOAT, floatData: [1, 2, 3] }] as never,
      }),
      'Incompatible dimensions for matrix multiplication',
    ],
    [
      'a count of columns that the data lack',
      onnx({ input: [input('x', [null, 7])] }),
      'takes 7 columns by position',
    ],
    [
      'whole numbers, given others',
      onnx({
        input: [input('x', [null, 1], TensorProto_DataType.INT64)],
        output: [{ name: 'y', type: tensorType([null, 1], TensorProto_DataType.INT64) }],
      }),
      'takes whole numbers; a row has 1.5',
    ],
  ])('with %s fails in one sentence', async (_, bytes, message) => {
    await expect(predict(bytes, 'x\n1.5\n')).rejects.toThrow(message);
  });

  it('takes numbers only where the column has them', async () => {
    await expect(predict(onnx(), 'x\nten\n')).rejects.toThrow('takes numbers where the column x has “ten”');
  });

  it('keeps what the schema does not know when it is edited', () => {
    const model = testFile('models/onnx-logistic-cancer/model.onnx');
    // Field 99 of a later schema, a varint.
    const unknown = [0x98, 0x06, 0x2a];
    const before = new Uint8Array([...model, ...unknown]);
    const after = toBinary(ModelProtoSchema, fromBinary(ModelProtoSchema, before));
    expect(Array.from(after.slice(-3))).toEqual(unknown);
  });
});
