import { closest } from 'fastest-levenshtein';
import { SieveError } from '../errors.js';
import { count, counted } from '../numbers.js';
import { eachRecord, openDelimited } from '../formats/csv/records.js';
import { MISSING_MARKERS } from '../table/infer.js';
import { allHold, check, MOST_EXAMPLES, type Check, type Example } from './check.js';
import {
  exampleHeader,
  LABEL_COLUMN,
  LARGEST_PREDICTIONS,
  POSITIVE_COLUMN,
  probabilityColumn,
  type PredictionRules,
} from './rules.js';

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

export interface CheckedPredictions {
  readonly checks: readonly Check[];
  /** Rows of the file under its header; null where it could not be read. */
  readonly rows: number | null;
  /** Null unless every check holds. */
  readonly predictions: Predictions | null;
}

const SUM_TOLERANCE = 1e-3;

/** How the columns of a file hold predictions: positions in its header. */
interface Layout {
  readonly identifier: number;
  readonly label: number | null;
  /** For each label the position of its probability; for a binary task the other one may be derived. */
  readonly probabilities: readonly (number | null)[] | null;
}

/** Collects offending places of one kind: counts them all and keeps the first few. */
class Offences {
  total = 0;
  readonly examples: Example[] = [];

  add(line: number | null, column: number | null, text: string): void {
    this.total++;
    if (this.examples.length < MOST_EXAMPLES) this.examples.push({ line, column, text });
  }
}

/**
 * Checks a file of predictions against its rules, in the browser before an attempt is spent and on the server
 * again. It knows identifiers and labels, never an answer.
 *
 * @param bytes the file as it came
 * @param file its name, for messages
 */
export function checkPredictions(
  bytes: Uint8Array,
  file: string,
  rules: PredictionRules,
): CheckedPredictions {
  if (bytes.length > LARGEST_PREDICTIONS) {
    const size = `${(bytes.length / 1024 / 1024).toFixed(1)} MB`;
    const limit = `at most ${LARGEST_PREDICTIONS / 1024 / 1024} MB`;
    return unread(
      check('size', 'fails', `${file} is too large to be a file of predictions.`, {
        measured: size,
        expected: limit,
      }),
    );
  }
  try {
    const source = openDelimited(bytes, file);
    const found = layoutOf(source.header, rules);
    if ('failed' in found) return unread(found.failed);
    const reader = new PredictionReader(rules, found.layout, source.header);
    eachRecord(source, (fields, line) => {
      reader.take(fields, line);
      return true;
    });
    const checks = [found.held, ...reader.finish()];
    return {
      checks,
      rows: reader.rows,
      predictions: allHold(checks) ? reader.predictions() : null,
    };
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    const { line, column } = error.place;
    const examples = line === undefined ? [] : [{ line, column: column ?? null, text: error.message }];
    return unread(
      check('readable', 'fails', error.message, {
        examples,
        expected: `CSV with the columns ${exampleHeader(rules).join(', ')}`,
      }),
    );
  }
}

const unread = (failed: Check): CheckedPredictions => ({ checks: [failed], rows: null, predictions: null });

function layoutOf(
  header: readonly string[],
  rules: PredictionRules,
): { layout: Layout; held: Check } | { failed: Check } {
  const expected = exampleHeader(rules).join(', ');
  const measured = header.join(', ');
  const fail = (message: string) => ({ failed: check('header', 'fails', message, { measured, expected }) });
  const position = (name: string) => {
    const at = header.indexOf(name);
    return at < 0 ? null : at;
  };
  const identifier = position(rules.identifier);
  if (identifier === null)
    return fail(`Line 1: there is no column “${rules.identifier}”${nearest(rules.identifier, header)}.`);
  const label = position(LABEL_COLUMN);
  const probabilities = rules.task === 'regression' ? null : probabilityPositions(rules, position);
  if (rules.needs === 'probabilities' && !probabilities) {
    const lacking = exampleHeader(rules)
      .slice(1)
      .filter((name) => position(name) === null);
    return fail(
      `Line 1: probabilities are asked for, and there is no column ${lacking.map((n) => `“${n}”`).join(', ')}.`,
    );
  }
  if (label === null && !probabilities)
    return fail(`Line 1: there is no column “${LABEL_COLUMN}”${nearest(LABEL_COLUMN, header)}.`);
  const used = new Set([identifier, label, ...(probabilities ?? [])]);
  const ignored = header.filter((_, i) => !used.has(i));
  const held = check('header', 'holds', `Header: ${header.filter((_, i) => used.has(i)).join(', ')}`, {
    measured: ignored.length > 0 ? `not used: ${ignored.join(', ')}` : 'as the example has it',
  });
  return { layout: { identifier, label, probabilities }, held };
}

function probabilityPositions(
  rules: PredictionRules,
  position: (name: string) => number | null,
): (number | null)[] | null {
  const named = rules.labels.map((label) => position(probabilityColumn(label)));
  if (named.every((p) => p !== null)) return named;
  if (rules.task !== 'binary') return null;
  const alone = position(POSITIVE_COLUMN) ?? named[rules.labels.indexOf(rules.positive ?? '')] ?? null;
  return alone === null ? null : rules.labels.map((label) => (label === rules.positive ? alone : null));
}

function nearest(wanted: string, header: readonly string[]): string {
  const same = header.find((name) => name.toLowerCase() === wanted.toLowerCase());
  return same !== undefined
    ? ` (“${same}” is written otherwise)`
    : header.length > 0
      ? `; the nearest is “${closest(wanted, [...header])}”`
      : '';
}

/** Reads the records of one file and remembers what is wrong with them. */
class PredictionReader {
  rows = 0;
  private readonly indexOf: Map<string, number>;
  private readonly firstLine: Int32Array;
  private readonly codeOf: Map<string, number>;
  private readonly labels: Int32Array;
  private readonly numbers: Float64Array[];
  private readonly unknown = new Offences();
  private readonly repeated = new Offences();
  private readonly blank = new Offences();
  private readonly foreign = new Offences();
  private readonly malformed = new Offences();
  private readonly outside = new Offences();
  private readonly sums = new Offences();

  constructor(
    private readonly rules: PredictionRules,
    private readonly layout: Layout,
    private readonly header: readonly string[],
  ) {
    const n = rules.identifiers.length;
    this.indexOf = new Map(rules.identifiers.map((id, i) => [id, i]));
    this.firstLine = new Int32Array(n);
    this.codeOf = new Map(rules.labels.map((label, code) => [label, code]));
    this.labels = new Int32Array(n).fill(-1);
    const columns = rules.task === 'regression' ? 1 : layout.probabilities ? rules.labels.length : 0;
    this.numbers = Array.from({ length: columns }, () => new Float64Array(n));
  }

  take(fields: readonly string[], line: number): void {
    this.rows++;
    const { rules, layout } = this;
    const id = fields[layout.identifier] ?? '';
    const index = this.indexOf.get(id) ?? this.indexOf.get(id.trim());
    if (index === undefined) {
      this.unknown.add(
        line,
        layout.identifier + 1,
        `line ${line}: ${rules.identifier} “${id}” is not one of the rows to predict`,
      );
      return;
    }
    const first = this.firstLine[index] ?? 0;
    if (first > 0) {
      this.repeated.add(
        line,
        layout.identifier + 1,
        `${rules.identifier} ${id} stands on lines ${first} and ${line}`,
      );
      return;
    }
    this.firstLine[index] = line;
    if (rules.task === 'regression') {
      const value = this.number(fields, layout.label ?? -1, line, id);
      if (value !== null) this.set(0, index, value);
      return;
    }
    if (layout.label !== null) this.takeLabel(fields, layout.label, index, line, id);
    if (layout.probabilities) this.takeProbabilities(fields, layout.probabilities, index, line, id);
  }

  private takeLabel(
    fields: readonly string[],
    column: number,
    index: number,
    line: number,
    id: string,
  ): void {
    const text = fields[column] ?? '';
    const code = this.codeOf.get(text) ?? this.codeOf.get(text.trim());
    if (code !== undefined) this.labels[index] = code;
    else if (MISSING_MARKERS.includes(text.trim()))
      this.blank.add(line, column + 1, `line ${line}: no prediction for ${id}`);
    else {
      const hint = closest(text, [...this.rules.labels]);
      this.foreign.add(
        line,
        column + 1,
        `line ${line}: “${text}” for ${id} is no label; the nearest is “${hint}”`,
      );
    }
  }

  private takeProbabilities(
    fields: readonly string[],
    columns: readonly (number | null)[],
    index: number,
    line: number,
    id: string,
  ): void {
    let sum = 0;
    for (const [code, column] of columns.entries()) {
      if (column === null) continue;
      const value = this.number(fields, column, line, id);
      if (value === null) return;
      if (value < 0 || value > 1) {
        this.outside.add(line, column + 1, `line ${line}: probability ${value} for ${id}`);
        return;
      }
      this.set(code, index, value);
      sum += value;
    }
    const lone = columns.findIndex((column) => column === null);
    if (lone >= 0) this.set(lone, index, 1 - sum);
    else if (Math.abs(sum - 1) > SUM_TOLERANCE)
      this.sums.add(line, null, `line ${line}: the probabilities of ${id} sum to ${Number(sum.toFixed(6))}`);
  }

  private set(column: number, index: number, value: number): void {
    const values = this.numbers[column];
    if (values) values[index] = value;
  }

  /** A finite number, or null after the offence was noted. */
  private number(fields: readonly string[], column: number, line: number, id: string): number | null {
    const text = (fields[column] ?? '').trim();
    if (MISSING_MARKERS.includes(text)) {
      this.blank.add(line, column + 1, `line ${line}: no ${this.header[column] ?? 'value'} for ${id}`);
      return null;
    }
    const value = Number(text);
    if (Number.isFinite(value) && !/^0[xob]/i.test(text)) return value;
    this.malformed.add(line, column + 1, `line ${line}: “${text}” for ${id} ${whatIsWrongWith(text)}`);
    return null;
  }

  finish(): Check[] {
    const missing = new Offences();
    this.rules.identifiers.forEach((id, i) => {
      if (this.firstLine[i] === 0) missing.add(null, null, `${this.rules.identifier} ${id} has no row`);
    });
    return [this.rowsCheck(missing), ...this.valueChecks()];
  }

  private rowsCheck(missing: Offences): Check {
    const n = this.rules.identifiers.length;
    const faults = [
      missing.total > 0 ? `${counted(missing.total, 'row')} missing` : null,
      this.unknown.total > 0 ? `${count(this.unknown.total)} not asked for` : null,
      this.repeated.total > 0 ? `${count(this.repeated.total)} repeated` : null,
    ].filter((fault) => fault !== null);
    if (faults.length === 0)
      return check('rows', 'holds', `${counted(n, 'row')}, every ${this.rules.identifier} once`);
    // At least one example of each fault, whichever is most frequent.
    const kinds = [missing, this.unknown, this.repeated].filter((o) => o.total > 0);
    const examples = kinds.flatMap((o) => o.examples.slice(0, Math.max(1, MOST_EXAMPLES - kinds.length + 1)));
    return check(
      'rows',
      'fails',
      `Not every ${this.rules.identifier} stands exactly once: ${faults.join(', ')}.`,
      {
        measured: `${count(n - missing.total)} of ${count(n)} found in ${counted(this.rows, 'row')}`,
        expected: `${counted(n, 'row')}, each ${this.rules.identifier} of the held-out file once`,
        examples,
      },
    );
  }

  private valueChecks(): Check[] {
    const { rules, layout } = this;
    const what = rules.task === 'regression' ? 'number' : layout.probabilities ? 'probability' : 'label';
    const checks: Check[] = [];
    const judge = (id: string, offences: Offences, holds: string | null, fails: string, expected: string) => {
      if (offences.total > 0) {
        checks.push(
          check(id, 'fails', fails, {
            measured: counted(offences.total, 'row'),
            expected,
            examples: offences.examples,
          }),
        );
      } else if (holds !== null) checks.push(check(id, 'holds', holds));
    };
    judge(
      'complete',
      this.blank,
      `Every row has a ${what}`,
      'Some rows have no prediction.',
      'a prediction in every row',
    );
    if (layout.label !== null && rules.task !== 'regression') {
      const set = rules.labels.map((label) => `“${label}”`).join(', ');
      judge(
        'labels',
        this.foreign,
        `Only the labels ${set}`,
        'Some labels are not among those asked for.',
        set,
      );
    }
    if (rules.task === 'regression' || layout.probabilities) {
      judge(
        'numbers',
        this.malformed,
        rules.task === 'regression' ? 'Every prediction is a number' : null,
        'Some cells are not numbers.',
        'numbers such as 0.25 or 1e-3',
      );
    }
    if (layout.probabilities) {
      judge(
        'range',
        this.outside,
        'Probabilities between 0 and 1',
        'Some probabilities lie outside 0 to 1.',
        'between 0 and 1',
      );
      judge(
        'sums',
        this.sums,
        layout.probabilities.includes(null) ? null : 'Probabilities of a row sum to 1',
        'Probabilities of some rows do not sum to 1.',
        `1, give or take ${SUM_TOLERANCE}`,
      );
    }
    return checks;
  }

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

function whatIsWrongWith(text: string): string {
  if (/^[+-]?\d{1,3}(,\d{3})+(\.\d+)?$/.test(text)) return 'has commas between thousands';
  if (/^[+-]?\d+,\d+$/.test(text)) return 'has a decimal comma';
  if (/^[+-]?inf(inity)?$/i.test(text)) return 'is infinite';
  if (/^[+-]?[\d.]+\s*%$/.test(text)) return 'is a percentage';
  return 'is not a number';
}
