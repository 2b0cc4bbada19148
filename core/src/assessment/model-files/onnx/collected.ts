import type { InferenceSession } from 'onnxruntime-web';
import { SieveError } from '../../../foundation/errors.js';
import { at, count } from '../../../foundation/numbers.js';
import { MOST_PROBLEMS, type ModelPredictions } from '../model-file.js';
import { type Graph } from './graph.js';

/** What an ONNX file may leave open. */
export interface OnnxOptions {
  /** The columns of the data, for a matrix that does not say how many it takes. */
  readonly columns: readonly string[];
  /** The classes of the target, for a model that does not name them; null for numbers. */
  readonly labels: readonly string[] | null;
  /** Of two classes the one whose probability a single number is; null for none. */
  readonly positive: string | null;
}

/** Outputs of all batches, and what they are. */
export class Collected {
  private labelsOut: string[] | null = null;
  private readonly columns: Float64Array[] = [];

  constructor(
    private readonly n: number,
    private readonly graph: Graph,
    private readonly options: OnnxOptions,
  ) {}

  take(results: InferenceSession.OnnxValueMapType, start: number, n: number, rows: number): void {
    let column = 0;
    for (const name of this.graph.outputs) {
      const value = results[name];
      if (!value || !('data' in value)) continue;
      const { data, dims } = value;
      const width = dims.slice(1).reduce((a, b) => a * b, 1);
      if ((dims[0] ?? rows) !== rows && !(dims.length === 0 && rows === 1))
        throw new SieveError(
          'model-file',
          `The output “${name}” has ${count(dims[0] ?? 0)} rows for ${count(rows)}.`,
        );
      const isText = value.type === 'string';
      const isLabel =
        isText || ((value.type === 'int64' || value.type === 'int32') && this.graph.outputs.length > 1);
      if (isLabel && width === 1) {
        this.labelsOut ??= new Array<string>(this.n).fill('');
        for (let i = 0; i < n; i++) this.labelsOut[start + i] = String(data[i]);
        continue;
      }
      if (isText) throw new SieveError('model-file', `The output “${name}” holds texts in ${width} columns.`);
      for (let c = 0; c < width; c++) {
        const own = (this.columns[column] ??= new Float64Array(this.n));
        column++;
        for (let i = 0; i < n; i++) own[start + i] = Number(data[i * width + c]);
      }
    }
  }

  predictions(): ModelPredictions {
    const { columns, labelsOut } = this;
    const isBad = (row: number) => columns.some((own) => !Number.isFinite(own[row]));
    const problems: { row: number; message: string }[] = [];
    for (let row = 0; row < this.n && problems.length < MOST_PROBLEMS; row++)
      if (isBad(row)) problems.push({ row, message: 'the model gives no finite number' });
    const labels = this.labels(columns.length);
    if (!labels) {
      if (labelsOut)
        return {
          values: labelsOut.map((label, row) => (isBad(row) ? null : label)),
          probabilities: null,
          problems,
        };
      if (columns.length !== 1)
        throw new SieveError(
          'model-file',
          `The model gives ${columns.length} numbers for a row and names no classes for them.`,
        );
      const values = Array.from(at(columns, 0), (value, row) => (isBad(row) ? null : value));
      return { values, probabilities: null, problems };
    }
    const shares = columns.length === 1 ? this.bothOf(at(columns, 0), labels) : columns;
    const values = Array.from({ length: this.n }, (_, row) => {
      if (isBad(row)) return null;
      if (labelsOut) return at(labelsOut, row);
      let best = 0;
      for (let label = 1; label < shares.length; label++)
        if ((shares[label]?.[row] ?? 0) > (shares[best]?.[row] ?? 0)) best = label;
      return at(labels, best);
    });
    return { values, probabilities: { labels, values: shares }, problems };
  }

  /** The labels that columns of numbers belong to; null where the numbers are predictions themselves. */
  private labels(columns: number): readonly string[] | null {
    if (columns === 0) return null;
    const { labels: own } = this.graph;
    if (own?.length === columns) return own;
    const { labels, positive } = this.options;
    if (labels?.length === columns) return labels;
    return columns === 1 && labels?.length === 2 && positive !== null ? labels : null;
  }

  private bothOf(own: Float64Array, labels: readonly string[]): Float64Array[] {
    const rest = own.map((share) => 1 - share);
    return labels.map((label) => (label === this.options.positive ? own : rest));
  }
}
