import { SieveError } from '../../foundation/errors.js';
import { numberOf, timeOf } from '../../data/table/cell.js';
import { at, shortNumber } from '../../foundation/numbers.js';
import type { Explanation } from '../../models/contract/explanation.js';
import { chancesOf, likeliest } from '../../models/contract/chances.js';
import { explainRow, predictRows, type Fitted } from '../../models/fitted.js';
import { DAY } from '../../models/prepared/recipe.js';
import { codedColumn } from '../../data/table/recode.js';
import { columnNamed, isCoded, type Column, type Table } from '../../data/table/table.js';

/** What a model says of one case. */
export interface OneCase {
  /** The class, or the number. */
  readonly answer: string;
  /** Of classes, in label order; none for a number. */
  readonly probabilities: readonly { readonly label: string; readonly probability: number }[];
  /** Where 95 % of such cases lie, by the spread of the out-of-fold errors; null for classes. */
  readonly low: number | null;
  readonly high: number | null;
  /** Why it says so; null where the family has no account of it. */
  readonly explanation: Explanation | null;
  /** Where the case lies outside the range of the training rows, as sentences. */
  readonly warnings: readonly string[];
}

/**
 * A table of one row, with the features of a model.
 *
 * @param cells for each feature its text; an empty one is a missing cell
 * @returns the table, and sentences on values that no training row had
 * @throws SieveError `case` with the feature whose text is no number
 */
export function caseFrom(
  fitted: Pick<Fitted, 'recipe'>,
  table: Table,
  cells: Readonly<Record<string, string>>,
): { readonly one: Table; readonly warnings: readonly string[] } {
  const warnings: string[] = [];
  const columns = fitted.recipe.features.map((feature): Column => {
    const text = (cells[feature.name] ?? '').trim();
    const column = columnNamed(table, feature.name);
    if (isCoded(column)) {
      if (feature.kind === 'category' && text !== '' && !feature.levels.includes(text))
        warnings.push(`${feature.name}: “${text}” is in no training row.`);
      return codedColumn(feature.name, [text], Int32Array.of(text === '' ? -1 : 0), column.kind);
    }
    const value = text === '' ? NaN : numberIn(text, column);
    if (text !== '' && Number.isNaN(value))
      throw new SieveError(
        'case',
        `${feature.name}: “${text}” is no ${column.kind === 'time' ? 'date' : 'number'}.`,
        {
          field: feature.name,
        },
      );
    const counted = column.kind === 'time' ? value / DAY : value;
    if (feature.kind === 'number' && (counted < feature.low || counted > feature.high))
      warnings.push(
        `${feature.name}: ${text} lies outside the range of the training rows, ${shown(feature.low, column)} to ${shown(feature.high, column)}.`,
      );
    return { ...column, values: Float64Array.of(value) };
  });
  return { one: { rowCount: 1, columns }, warnings };
}

/**
 * Predicts one case from texts.
 *
 * @param cells for each feature its text; an empty one is a missing cell
 * @param spread root mean squared error out of fold; null for classes
 * @throws SieveError `case` with the feature whose text is no number
 */
export function predictOne(
  fitted: Fitted,
  table: Table,
  cells: Readonly<Record<string, string>>,
  spread: number | null,
): OneCase {
  const { one, warnings } = caseFrom(fitted, table, cells);
  const predicted = predictRows(fitted, one, Int32Array.of(0));
  const explanation = explainRow(fitted, one);
  if (fitted.labels.length === 0) {
    const value = at(at(predicted, 0), 0);
    const half = spread === null ? null : 1.96 * spread;
    return {
      answer: shortNumber(value, 6),
      probabilities: [],
      low: half === null ? null : value - half,
      high: half === null ? null : value + half,
      explanation,
      warnings,
    };
  }
  const own = chancesOf(predicted, fitted.positive);
  return {
    answer: at(fitted.labels, at(likeliest(own, fitted.positive), 0)),
    probabilities: fitted.labels.map((label, i) => ({ label, probability: at(at(own, i), 0) })),
    low: null,
    high: null,
    explanation,
    warnings,
  };
}

const numberIn = (text: string, column: Column): number =>
  column.kind === 'time' ? (timeOf(text)?.value ?? NaN) : numberOf(text);

const shown = (value: number, column: Column): string =>
  column.kind === 'time' ? new Date(value * DAY).toISOString().slice(0, 10) : shortNumber(value, 5);
