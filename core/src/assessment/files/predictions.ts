import { SieveError } from '../../foundation/errors.js';
import { openDelimited } from '../../data/formats/csv/records.js';
import { allHold, check, type Check } from '../../foundation/check.js';
import { layoutOf } from './layout.js';
import { PredictionReader, type Predictions } from './reader.js';
import { eachRecord } from './record.js';
import { exampleHeader, type PredictionRules } from './rules.js';

export interface CheckedPredictions {
  readonly checks: readonly Check[];
  /** Rows of the file under its header; null where it could not be read. */
  readonly rows: number | null;
  /** Null unless every check holds. */
  readonly predictions: Predictions | null;
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
  try {
    const source = openDelimited(bytes, file);
    const found = layoutOf(source.header, rules, source.isIndexed);
    if ('failed' in found) return unread(found.failed);
    const reader = new PredictionReader(rules, found.layout, source.header);
    eachRecord(source, (record) => reader.take(record));
    const checks = [found.held, ...reader.finish()];
    return {
      checks,
      rows: reader.rows,
      predictions: allHold(checks) ? reader.predictions() : null,
    };
  } catch (error) {
    return unread(unreadable(error, `CSV with the columns ${exampleHeader(rules).join(', ')}`));
  }
}

/** The check that a file fails which could not be read. @throws whatever is no error of the file's */
export function unreadable(error: unknown, expected: string): Check {
  if (!(error instanceof SieveError)) throw error;
  const { line, column } = error.place;
  const examples = line === undefined ? [] : [{ line, column: column ?? null, text: error.message }];
  return check('readable', 'fails', error.message, { examples, expected });
}

const unread = (failed: Check): CheckedPredictions => ({ checks: [failed], rows: null, predictions: null });
