import type { InferenceSession, Tensor } from 'onnxruntime-web';
import { SieveError } from '../../../foundation/errors.js';
import { at, count, counted } from '../../../foundation/numbers.js';
import { cellText, columnNamed, isCoded, isMissing, type Table } from '../../../data/table/table.js';
import { type ModelFile, type ModelInput, type ModelPredictions } from '../model-file.js';
import { partsPicture } from '../pictures.js';
import { readGraph, type ElementType, type Graph, type GraphInput } from './graph.js';
import { type OnnxOptions, Collected } from './collected.js';

/** Rows that are run at a time, so that memory depends on the model alone. */
const BATCH = 10_000;

/**
 * An ONNX file as a model. Nothing of it is run before the first prediction.
 *
 * @throws SieveError `model-file`
 */
export function onnxFile(bytes: Uint8Array, options: OnnxOptions): ModelFile {
  const graph = readGraph(bytes);
  const places = graph.inputs.map((input) => ({ input, names: namesOf(input, graph, options) }));
  let runtime: Promise<Runtime> | null = null;
  return {
    format: 'onnx',
    inputs: places.flatMap(({ input, names }) =>
      names.map((name): ModelInput => ({
        name,
        takes: input.type === 'string' ? 'texts' : 'numbers',
        values: null,
      })),
    ),
    outline: `${graph.operators
      .slice(0, 4)
      .map(({ name, count: times }) => (times === 1 ? name : `${times} × ${name}`))
      .join(', ')} · ${counted(
      graph.operators.reduce((sum, one) => sum + one.count, 0),
      'operator',
    )}, ${count(graph.size)} numbers`,
    picture: () => partsPicture(graph.operators),
    async predict(table, columnOf) {
      runtime ??= load(graph);
      return run(await runtime, graph, places, table, columnOf, options);
    },
  };
}

/** Names of the columns of an input: its own for a single column, and with their place for a matrix. */
function namesOf(input: GraphInput, { inputs }: Graph, { columns }: OnnxOptions): string[] {
  const n = !input.isMatrix ? 1 : (input.columns ?? (inputs.length === 1 ? columns.length : 1));
  return n === 1 ? [input.name] : Array.from({ length: n }, (_, i) => `${input.name}[${i + 1}]`);
}

/** A model that is loaded, and how tensors for it are made. */
interface Runtime {
  readonly session: InferenceSession;
  readonly tensor: typeof Tensor;
}

/** Loads the ONNX runtime before a model is run. */
export const fetchRuntime = async (): Promise<void> => {
  await import('onnxruntime-web');
};

/** The runtime is large: it is fetched when a model is first run. */
async function load({ bytes }: Graph): Promise<Runtime> {
  const { env, InferenceSession: Session, Tensor: tensor } = await import('onnxruntime-web');
  env.wasm.numThreads = 1;
  env.logLevel = 'fatal';
  try {
    const session = await Session.create(bytes, {
      executionProviders: ['wasm'],
      logSeverityLevel: 4,
      intraOpNumThreads: 1,
    });
    return { session, tensor };
  } catch (error) {
    throw new SieveError('model-file', `The model cannot be loaded: ${reasonOf(error)}.`);
  }
}

/** What the runtime says, in one line. */
function reasonOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  const reason = /ERROR_MESSAGE:\s*"?([^\n]*)/.exec(text)?.[1] ?? text.split('\n')[0] ?? '';
  return reason.replace(/["\s.]+$/, '').slice(0, 300);
}

interface Place {
  readonly input: GraphInput;
  readonly names: readonly string[];
}

async function run(
  { session, tensor }: Runtime,
  graph: Graph,
  places: readonly Place[],
  table: Table,
  columnOf: (input: string) => string,
  options: OnnxOptions,
): Promise<ModelPredictions> {
  const columns = places.map(({ input, names }) =>
    names.map((name) => cellsOf(table, columnOf(name), input.type)),
  );
  const fixed = places.flatMap(({ input }) => input.rows ?? []);
  const batch = fixed.length > 0 ? Math.min(...fixed) : BATCH;
  const collected = new Collected(table.rowCount, graph, options);
  for (let start = 0; start < table.rowCount; start += batch) {
    const n = Math.min(batch, table.rowCount - start);
    // A model that takes so many rows at a time is given the last row again where there are fewer.
    const rows = fixed.length > 0 ? batch : n;
    const feeds = Object.fromEntries(
      places.map(({ input }, i) => [input.name, tensorOf(tensor, input, at(columns, i), start, n, rows)]),
    );
    let results: InferenceSession.OnnxValueMapType;
    try {
      results = await session.run(feeds);
    } catch (error) {
      throw new SieveError(
        'model-file',
        `The model fails on the rows from ${start + 1} on: ${reasonOf(error)}.`,
      );
    }
    collected.take(results, start, n, rows);
  }
  return collected.predictions();
}

type Cells = (row: number) => number | string | null;

function cellsOf(table: Table, name: string, type: ElementType): Cells {
  const column = columnNamed(table, name);
  if (type === 'string') return (row) => cellText(column, row) ?? '';
  if (!isCoded(column)) return (row) => at(column.values, row);
  const numbers = column.levels.map((level) =>
    column.kind === 'boolean'
      ? level.toLowerCase() === 'true'
        ? 1
        : 0
      : Number(level.trim() === '' ? NaN : level),
  );
  const wrong = numbers.findIndex((value) => Number.isNaN(value));
  if (wrong >= 0)
    throw new SieveError(
      'model-file',
      `The model takes numbers where the column ${name} has “${at(column.levels, wrong)}”.`,
      { field: name },
    );
  return (row) => (isMissing(column, row) ? NaN : at(numbers, at(column.codes, row)));
}

function tensorOf(
  PreparedQuestion: typeof Tensor,
  { type, isMatrix, name }: GraphInput,
  columns: readonly Cells[],
  start: number,
  n: number,
  rows: number,
): Tensor {
  const dims = isMatrix ? [rows, columns.length] : [rows];
  const size = rows * columns.length;
  const cell = (i: number) => {
    const row = start + Math.min(n - 1, Math.floor(i / columns.length));
    return at(columns, i % columns.length)(row);
  };
  const numbers = { length: size };
  switch (type) {
    case 'string':
      return new PreparedQuestion(
        'string',
        Array.from(numbers, (_, i) => String(cell(i) ?? '')),
        dims,
      );
    case 'float32':
      return new PreparedQuestion(
        'float32',
        Float32Array.from(numbers, (_, i) => Number(cell(i))),
        dims,
      );
    case 'float64':
      return new PreparedQuestion(
        'float64',
        Float64Array.from(numbers, (_, i) => Number(cell(i))),
        dims,
      );
    case 'bool':
      return new PreparedQuestion(
        'bool',
        Uint8Array.from(numbers, (_, i) => (whole(cell(i), name) === 0 ? 0 : 1)),
        dims,
      );
    case 'int32':
      return new PreparedQuestion(
        'int32',
        Int32Array.from(numbers, (_, i) => whole(cell(i), name)),
        dims,
      );
    case 'int64':
      return new PreparedQuestion(
        'int64',
        BigInt64Array.from(numbers as ArrayLike<unknown>, (_, i) => BigInt(whole(cell(i), name))),
        dims,
      );
  }
}

function whole(cell: number | string | null, name: string): number {
  const value = Number(cell);
  if (!Number.isSafeInteger(value))
    throw new SieveError(
      'model-file',
      `The input “${name}” takes whole numbers; a row has ${Number.isNaN(value) ? 'none' : String(value)}.`,
    );
  return value;
}
