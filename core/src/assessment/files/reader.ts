import { closest } from 'fastest-levenshtein';
import { MISSING_MARKERS, whatIsWrongWith } from '../../data/table/cell.js';
import type { Check } from '../../foundation/check.js';
import { fileChecks, SUM_TOLERANCE } from './file-checks.js';
import { labelPlace } from './label-place.js';
import type { Layout } from './layout.js';
import { noOffences } from './offences.js';
import type { PredictionRecord } from './record.js';
import type { PredictionRules } from './rules.js';
import { TextIndex } from './text-index.js';

/** Predictions aligned to `rules.identifiers`. */
export type Predictions =
  | {
      readonly kind: 'labels';
      /** Code of the predicted label of each row. */
      readonly predicted: Int32Array;
      /** For each label, the probability of each row; null where only labels were given. */
      readonly probabilities: readonly Float64Array[] | null;
      /** Whether labels were derived from probabilities. */
      readonly derived: boolean;
    }
  | { readonly kind: 'numbers'; readonly predicted: Float64Array };

/** Reads the records of one file and remembers what is wrong with them. */
export class PredictionReader {
  rows = 0;
  private readonly rowOf: TextIndex;
  private readonly firstLine: Int32Array;
  private readonly codeOf: TextIndex;
  private readonly labels: Int32Array;
  private readonly numbers: Float64Array[];
  private readonly found = noOffences();

  constructor(
    private readonly rules: PredictionRules,
    private readonly layout: Layout,
    private readonly header: readonly string[],
  ) {
    const n = rules.identifiers.length;
    this.rowOf = new TextIndex(rules.identifiers);
    this.firstLine = new Int32Array(n);
    this.codeOf = new TextIndex(rules.labels);
    this.labels = new Int32Array(n).fill(-1);
    const columns = rules.task === 'regression' ? 1 : layout.probabilities ? rules.labels.length : 0;
    this.numbers = Array.from({ length: columns }, () => new Float64Array(n));
  }

  take(record: PredictionRecord): void {
    this.rows++;
    const { rules, layout } = this;
    const index = record.among(this.rowOf, layout.identifier);
    const { line } = record;
    if (index < 0) {
      this.found.unknown.add(
        line,
        layout.identifier + 1,
        `line ${line}: ${rules.identifier} “${this.nameOf(record)}” is not one of the rows to predict`,
      );
      return;
    }
    const first = this.firstLine[index] ?? 0;
    if (first > 0) {
      this.found.repeated.add(
        line,
        layout.identifier + 1,
        `${rules.identifier} ${this.nameOf(record)} is on lines ${first} and ${line}`,
      );
      return;
    }
    this.firstLine[index] = line;
    if (rules.task === 'regression') {
      const value = this.number(record, layout.label ?? -1);
      if (value !== null) this.set(0, index, value);
      return;
    }
    if (layout.label !== null) this.takeLabel(record, layout.label, index);
    if (layout.probabilities) this.takeProbabilities(record, layout.probabilities, index);
  }

  private nameOf(record: PredictionRecord): string {
    return record.text(this.layout.identifier);
  }

  private takeLabel(record: PredictionRecord, column: number, index: number): void {
    const written = record.among(this.codeOf, column);
    const text = written < 0 ? record.text(column) : '';
    const code = written < 0 ? labelPlace(this.rules.labels, text) : written;
    if (code >= 0) {
      this.labels[index] = code;
      return;
    }
    const { line } = record;
    const id = this.nameOf(record);
    if (MISSING_MARKERS.includes(text.trim()))
      this.found.blank.add(line, column + 1, `line ${line}: no prediction for ${id}`);
    else {
      const hint = closest(text, [...this.rules.labels]);
      this.found.foreign.add(
        line,
        column + 1,
        `line ${line}: “${text}” for ${id} is no label; the nearest is “${hint}”`,
      );
    }
  }

  private takeProbabilities(
    record: PredictionRecord,
    columns: readonly (number | null)[],
    index: number,
  ): void {
    const { line } = record;
    let sum = 0;
    for (let code = 0; code < columns.length; code++) {
      const column = columns[code] ?? null;
      if (column === null) continue;
      const value = this.number(record, column);
      if (value === null) return;
      if (value < 0 || value > 1) {
        const message = `line ${line}: probability ${value} for ${this.nameOf(record)}`;
        this.found.outside.add(line, column + 1, message);
        return;
      }
      this.set(code, index, value);
      sum += value;
    }
    const lone = columns.indexOf(null);
    if (lone >= 0) this.set(lone, index, 1 - sum);
    else if (Math.abs(sum - 1) > SUM_TOLERANCE)
      this.found.sums.add(
        line,
        null,
        `line ${line}: the probabilities of ${this.nameOf(record)} sum to ${Number(sum.toFixed(6))}`,
      );
  }

  private set(column: number, index: number, value: number): void {
    const values = this.numbers[column];
    if (values) values[index] = value;
  }

  /** A finite number, or null after the offence was noted. */
  private number(record: PredictionRecord, column: number): number | null {
    const value = record.number(column);
    if (!Number.isNaN(value)) return value;
    const text = record.text(column).trim();
    const { line } = record;
    const id = this.nameOf(record);
    if (MISSING_MARKERS.includes(text)) {
      this.found.blank.add(line, column + 1, `line ${line}: no ${this.header[column] ?? 'value'} for ${id}`);
      return null;
    }
    this.found.malformed.add(line, column + 1, `line ${line}: “${text}” for ${id} ${whatIsWrongWith(text)}`);
    return null;
  }

  /** What the whole file comes to, once every record was taken. */
  finish(): Check[] {
    this.rules.identifiers.forEach((id, i) => {
      if (this.firstLine[i] === 0)
        this.found.missing.add(null, null, `${this.rules.identifier} ${id} is missing`);
    });
    return fileChecks(this.rules, this.layout, this.rows, this.found);
  }

  /** The predictions, aligned to the rules; only of a file whose checks hold. */
  predictions(): Predictions {
    const [first] = this.numbers;
    if (this.rules.task === 'regression' && first) return { kind: 'numbers', predicted: first };
    const probabilities = this.layout.probabilities ? this.numbers : null;
    const derived = this.layout.label === null;
    return {
      kind: 'labels',
      predicted: derived ? this.derivedLabels() : this.labels,
      probabilities,
      derived,
    };
  }

  /** Binary: the positive label from 0.5 up. More classes: the most probable one, the first in label order on ties. */
  private derivedLabels(): Int32Array {
    const positive = this.rules.labels.indexOf(this.rules.positive ?? '');
    return this.labels.map((_, row) => {
      if (positive >= 0) return (this.numbers[positive]?.[row] ?? 0) >= 0.5 ? positive : 1 - positive;
      let best = 0;
      for (let code = 1; code < this.numbers.length; code++) {
        if ((this.numbers[code]?.[row] ?? 0) > (this.numbers[best]?.[row] ?? 0)) best = code;
      }
      return best;
    });
  }
}
