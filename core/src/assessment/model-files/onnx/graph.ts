import { fromBinary, toBinary } from '@bufbuild/protobuf';
import { SieveError } from '../../../foundation/errors.js';
import { at, count } from '../../../foundation/numbers.js';
import {
  ModelProtoSchema,
  TensorProto_DataLocation,
  TensorProto_DataType,
  type AttributeProto,
  type GraphProto,
  type ModelProto,
  type NodeProto,
  type TensorProto,
  type ValueInfoProto,
} from './schema.js';

/** Element types of tensors that rows can be put into and predictions read from. */
const ELEMENTS: ReadonlyMap<number, ElementType> = new Map([
  [TensorProto_DataType.FLOAT, 'float32'],
  [TensorProto_DataType.DOUBLE, 'float64'],
  [TensorProto_DataType.INT32, 'int32'],
  [TensorProto_DataType.INT64, 'int64'],
  [TensorProto_DataType.BOOL, 'bool'],
  [TensorProto_DataType.STRING, 'string'],
]);
export type ElementType = 'float32' | 'float64' | 'int32' | 'int64' | 'bool' | 'string';

/** An input of the graph. */
export interface GraphInput {
  readonly name: string;
  readonly type: ElementType;
  /** Rows that it takes at a time; null for any count. */
  readonly rows: number | null;
  /** Whether its shape has a second dimension. */
  readonly isMatrix: boolean;
  /** Columns of a matrix; null where the file does not say. */
  readonly columns: number | null;
}

/** What an ONNX file says of itself before anything is run. */
export interface Graph {
  /** The file as it is run: without the nodes that make maps of probabilities. */
  readonly bytes: Uint8Array;
  readonly inputs: readonly GraphInput[];
  readonly outputs: readonly string[];
  /** Labels that a node of the graph names, in its order; null where none does. */
  readonly labels: readonly string[] | null;
  /** How often each operator occurs, the most frequent first. */
  readonly operators: readonly { readonly name: string; readonly count: number }[];
  /** Numbers in its tensors and trees. */
  readonly size: number;
}

const DOMAINS = ['', 'ai.onnx', 'ai.onnx.ml'];
/** Operators that repeat a graph as often as they like. */
const LOOPS = ['Loop', 'Scan', 'SequenceMap'];
const MOST_NODES = 50_000;
const MOST_INPUTS = 5_000;
const DEEPEST = 20;

const refused = (message: string) => new SieveError('model-file', message);

/**
 * Reads an ONNX file, refuses what may not be run, and drops the nodes that make maps of probabilities, which the runtime
 * cannot give back: their input becomes the output, and their labels are kept.
 *
 * @throws SieveError `model-file`
 */
export function readGraph(bytes: Uint8Array): Graph {
  let model: ModelProto;
  try {
    model = fromBinary(ModelProtoSchema, bytes);
  } catch {
    throw refused('The file is no ONNX model, or it is cut off.');
  }
  const { graph } = model;
  if (!graph || graph.node.length === 0) throw refused('The file is no ONNX model: it has no graph.');
  for (const { domain } of model.opsetImport)
    if (!DOMAINS.includes(domain)) throw refused(`Operators of the domain “${domain}” are not supported.`);
  const counts = new Map<string, number>();
  let nodes = 0;
  let size = 0;
  const visit = (all: readonly NodeProto[], tensors: readonly TensorProto[], depth: number) => {
    if (depth > DEEPEST) throw refused(`Graphs are nested more than ${DEEPEST} deep.`);
    nodes += all.length;
    if (nodes > MOST_NODES) throw refused(`The model has more than ${count(MOST_NODES)} operators.`);
    for (const tensor of tensors) size += checkedTensor(tensor);
    for (const node of all) {
      if (LOOPS.includes(node.opType))
        throw refused(`The operator ${node.opType} is not supported: it may never end.`);
      if (!DOMAINS.includes(node.domain) && !isFunction(model, node))
        throw refused(`The operator ${node.opType} of “${node.domain}” is not supported.`);
      counts.set(node.opType, (counts.get(node.opType) ?? 0) + 1);
      for (const attribute of node.attribute) {
        size += attribute.floats.length + attribute.ints.length + attribute.strings.length;
        const own = [...(attribute.t ? [attribute.t] : []), ...attribute.tensors];
        for (const tensor of own) size += checkedTensor(tensor);
        for (const inner of [...(attribute.g ? [attribute.g] : []), ...attribute.graphs])
          visit(inner.node, inner.initializer, depth + 1);
      }
    }
  };
  visit(graph.node, graph.initializer, 0);
  for (const one of model.functions) visit(one.node, [], 1);
  if (graph.sparseInitializer.length > 0) throw refused('Sparse tensors are not supported.');

  const given = new Set(graph.initializer.map(({ name }) => name));
  const inputs = graph.input.filter(({ name }) => !given.has(name)).map(inputOf);
  if (inputs.length === 0) throw refused('The model has no input.');
  if (inputs.length > MOST_INPUTS) throw refused(`The model has more than ${count(MOST_INPUTS)} inputs.`);
  const labels = labelsIn(graph);
  const isEdited = dropMaps(graph);
  return {
    bytes: isEdited ? toBinary(ModelProtoSchema, model) : bytes,
    inputs,
    outputs: graph.output.map(({ name }) => name),
    labels,
    operators: Array.from(counts, ([name, times]) => ({ name, count: times })).sort(
      (a, b) => b.count - a.count,
    ),
    size,
  };
}

const isFunction = ({ functions }: ModelProto, { domain, opType }: NodeProto) =>
  functions.some((one) => one.domain === domain && one.name === opType);

/** Values that a tensor holds. @throws SieveError `model-file` where they are in another file, or are not there */
function checkedTensor(tensor: TensorProto): number {
  if (tensor.dataLocation === TensorProto_DataLocation.EXTERNAL || tensor.externalData.length > 0)
    throw refused(`The tensor “${tensor.name}” is in another file; save the model in one file.`);
  const wanted = tensor.dims.reduce((product, dim) => product * Number(dim), 1);
  const held = Math.max(
    tensor.rawData.length,
    tensor.floatData.length,
    tensor.int32Data.length,
    tensor.int64Data.length,
    tensor.doubleData.length,
    tensor.uint64Data.length,
    tensor.stringData.length,
  );
  if (!(wanted >= 0) || wanted > Math.max(1, held) * 8)
    throw refused(
      `The tensor “${tensor.name}” is to have ${count(wanted)} values, which the file does not hold.`,
    );
  return wanted;
}

function inputOf({ name, type }: ValueInfoProto): GraphInput {
  const value = type?.value;
  if (value?.case !== 'tensorType') throw refused(`The input “${name}” is no tensor.`);
  const element = ELEMENTS.get(value.value.elemType);
  if (!element)
    throw refused(
      `The input “${name}” has elements of the type ${TensorProto_DataType[value.value.elemType] ?? 'unknown'}, which is not supported.`,
    );
  const dims = (value.value.shape?.dim ?? []).map(({ value: dim }) =>
    dim.case === 'dimValue' && dim.value > 0n ? Number(dim.value) : null,
  );
  if (dims.length > 2)
    throw refused(`The input “${name}” has ${dims.length} dimensions; rows and columns are two.`);
  return {
    name,
    type: element,
    rows: dims[0] ?? null,
    isMatrix: dims.length === 2 || value.value.shape === undefined,
    columns: dims.length === 2 ? at(dims, 1) : null,
  };
}

const attributeOf = (node: NodeProto, ...names: string[]): AttributeProto | null =>
  node.attribute.find(({ name }) => names.includes(name)) ?? null;

function labelsOf(node: NodeProto): string[] | null {
  const strings = attributeOf(node, 'classlabels_strings');
  if (strings && strings.strings.length > 0)
    return strings.strings.map((bytes) => new TextDecoder().decode(bytes));
  const words = attributeOf(node, 'values_strings');
  const places = attributeOf(node, 'keys_int64s');
  // From the place of the largest probability to its label.
  if (node.opType === 'LabelEncoder' && words && places?.ints.every((place, i) => Number(place) === i))
    return words.strings.map((bytes) => new TextDecoder().decode(bytes));
  const ints = attributeOf(node, 'classlabels_int64s', 'classlabels_ints');
  return ints && ints.ints.length > 0 ? ints.ints.map(String) : null;
}

/** The labels of the last node that names any: classifiers and maps. */
function labelsIn({ node }: GraphProto): string[] | null {
  for (const one of [...node].reverse()) {
    const labels = labelsOf(one);
    if (labels) return labels;
  }
  return null;
}

/** Removes the nodes that make maps. Whether there were any. */
function dropMaps(graph: GraphProto): boolean {
  const maps = graph.node.filter(({ opType }) => opType === 'ZipMap');
  for (const map of maps) {
    const [from, to] = [map.input[0], map.output[0]];
    const output = graph.output.find(({ name }) => name === to);
    if (from === undefined || to === undefined)
      throw refused('A node that makes maps has no input or no output.');
    if (graph.node.some(({ input }) => input.includes(to)))
      throw refused('Maps of probabilities are used inside the graph, which is not supported.');
    if (!output) continue;
    output.name = from;
    output.type = {
      $typeName: 'onnx.TypeProto',
      denotation: '',
      value: {
        case: 'tensorType',
        value: { $typeName: 'onnx.TypeProto.Tensor', elemType: TensorProto_DataType.FLOAT },
      },
    };
  }
  graph.node = graph.node.filter((one) => !maps.includes(one));
  graph.output = graph.output.filter(
    ({ name }, i) => graph.output.findIndex((other) => other.name === name) === i,
  );
  return maps.length > 0;
}
