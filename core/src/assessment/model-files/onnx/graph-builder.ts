import { create, toBinary, type MessageInitShape } from '@bufbuild/protobuf';
import { at } from '../../../foundation/numbers.js';
import {
  AttributeProto_AttributeType,
  ModelProtoSchema,
  NodeProtoSchema,
  TensorProto_DataType,
  TensorProtoSchema,
  ValueInfoProtoSchema,
} from './schema.js';

type Tensor = MessageInitShape<typeof TensorProtoSchema>;
type Node = MessageInitShape<typeof NodeProtoSchema>;
type Info = MessageInitShape<typeof ValueInfoProtoSchema>;
/** An attribute: numbers are integers unless they are marked as floats. */
type Value =
  | number
  | string
  | readonly number[]
  | readonly string[]
  | { readonly tensor: Tensor }
  | { readonly float: number }
  | { readonly floats: readonly number[] };

/** Domain of the operators of classical models. */
export const ML = 'ai.onnx.ml';

/** A tensor of doubles. */
export const doubles = (values: readonly number[], dims: readonly number[]): Tensor => ({
  dims: dims.map(BigInt),
  dataType: TensorProto_DataType.DOUBLE,
  doubleData: [...values],
});

/** The nodes, tensors, inputs and outputs of a graph as it is put together. */
export class GraphBuilder {
  private readonly nodes: Node[] = [];
  private readonly tensors: Tensor[] = [];
  private readonly inputs: Info[] = [];
  private readonly outputs: Info[] = [];
  private names = 0;

  input(name: string, type: TensorProto_DataType): void {
    this.inputs.push(info(name, type, 1));
  }

  /** @param columns of a matrix; null for a list */
  output(name: string, type: TensorProto_DataType, columns: number | null): void {
    this.outputs.push(info(name, type, columns));
  }

  /** A constant tensor of doubles; its name. */
  tensor(values: readonly number[], dims: readonly number[]): string {
    const name = this.fresh();
    this.tensors.push({ name, ...doubles(values, dims) });
    return name;
  }

  /** A node with one output; the name of this. */
  add(
    opType: string,
    inputs: readonly string[],
    attributes: Readonly<Record<string, Value>> = {},
    domain = '',
  ): string {
    return at(this.addWith(opType, inputs, attributes, domain, 1), 0);
  }

  addWith(
    opType: string,
    inputs: readonly string[],
    attributes: Readonly<Record<string, Value>>,
    domain: string,
    outputs: number,
  ): string[] {
    const output = Array.from({ length: outputs }, () => this.fresh());
    const attribute = Object.entries(attributes).map(([name, value]) => ({ name, ...attributeOf(value) }));
    this.nodes.push({ opType, domain, input: [...inputs], output, attribute });
    return output;
  }

  bytes(): Uint8Array {
    const model = create(ModelProtoSchema, {
      irVersion: 8n,
      producerName: 'Modest Sieve',
      opsetImport: [
        { domain: '', version: 15n },
        { domain: ML, version: 3n },
      ],
      graph: {
        name: 'model',
        node: this.nodes,
        initializer: this.tensors,
        input: this.inputs,
        output: this.outputs,
      },
    });
    return toBinary(ModelProtoSchema, model);
  }

  /** A name that no column has. */
  private fresh(): string {
    const taken = new Set(this.inputs.map(({ name }) => name));
    let name: string;
    do name = `step_${++this.names}`;
    while (taken.has(name));
    return name;
  }
}

function info(name: string, elemType: number, columns: number | null): Info {
  const rows = { value: { case: 'dimParam' as const, value: 'N' } };
  const width = { value: { case: 'dimValue' as const, value: BigInt(columns ?? 0) } };
  const dim = columns === null ? [rows] : [rows, width];
  return { name, type: { value: { case: 'tensorType', value: { elemType, shape: { dim } } } } };
}

const textBytes = (text: string) => new TextEncoder().encode(text);

function attributeOf(value: Value) {
  const type = AttributeProto_AttributeType;
  if (typeof value === 'number') return { type: type.INT, i: BigInt(value) };
  if (typeof value === 'string') return { type: type.STRING, s: textBytes(value) };
  if ('float' in value) return { type: type.FLOAT, f: value.float };
  if ('floats' in value) return { type: type.FLOATS, floats: [...value.floats] };
  if ('tensor' in value) return { type: type.TENSOR, t: value.tensor };
  return value.every((one) => typeof one === 'string')
    ? { type: type.STRINGS, strings: value.map(textBytes) }
    : { type: type.INTS, ints: value.map((one) => BigInt(one)) };
}
