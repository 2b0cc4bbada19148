import { closest } from 'fastest-levenshtein';
import { check, type Check } from '../../foundation/check.js';
import { labelPlace } from './label-place.js';
import {
  exampleHeader,
  LABEL_COLUMN,
  POSITIVE_COLUMN,
  probabilityColumn,
  type PredictionRules,
} from './rules.js';

/** How the columns of a file hold predictions: positions in its header. */
export interface Layout {
  readonly identifier: number;
  readonly label: number | null;
  /** For each label the position of its probability; for a binary task the other one may be derived. */
  readonly probabilities: readonly (number | null)[] | null;
}

/**
 * Finds the columns of predictions in a header, or says which is lacking.
 *
 * @param isIndexed whether the first column has no name: it is then taken for the identifier where no other has its name
 */
export function layoutOf(
  header: readonly string[],
  rules: PredictionRules,
  isIndexed = false,
): { layout: Layout; held: Check } | { failed: Check } {
  const expected = exampleHeader(rules).join(', ');
  const measured = header.join(', ');
  const fail = (message: string) => ({ failed: check('header', 'fails', message, { measured, expected }) });
  const position = (name: string) => {
    const at = header.indexOf(name);
    return at < 0 ? null : at;
  };
  const named = position(rules.identifier);
  const identifier = named ?? (isIndexed ? 0 : null);
  if (identifier === null)
    return fail(`Line 1: there is no column “${rules.identifier}”${nearestName(rules.identifier, header)}.`);
  const labelColumn = rules.names?.label ?? LABEL_COLUMN;
  const label = position(labelColumn);
  const probabilities = rules.task === 'regression' ? null : probabilityPositions(rules, header, position);
  if (rules.needs === 'probabilities' && !probabilities) {
    const lacking = exampleHeader(rules)
      .slice(1)
      .filter((name) => position(name) === null);
    return fail(
      `Line 1: probabilities are asked for, and there is no column ${lacking.map((n) => `“${n}”`).join(', ')}.`,
    );
  }
  if (label === null && !probabilities) {
    const others = header.filter((name) => name !== rules.identifier);
    return fail(`Line 1: there is no column “${labelColumn}”${nearestName(labelColumn, others)}.`);
  }
  const used = new Set([identifier, label, ...(probabilities ?? [])]);
  const ignored = header.filter((_, i) => !used.has(i));
  const held = check('header', 'holds', `Header: ${header.filter((_, i) => used.has(i)).join(', ')}`, {
    measured:
      named === null
        ? `column 1 has no name and is taken for ${rules.identifier}`
        : ignored.length > 0
          ? `not used: ${ignored.join(', ')}`
          : 'as the example has it',
  });
  return { layout: { identifier, label, probabilities }, held };
}

function probabilityPositions(
  rules: PredictionRules,
  header: readonly string[],
  position: (name: string) => number | null,
): (number | null)[] | null {
  const named = rules.labels.map((label, place) => {
    const exact = position(probabilityColumn(label));
    if (exact !== null) return exact;
    const prefix = probabilityColumn('');
    const other = header.findIndex(
      (name) => name.startsWith(prefix) && labelPlace(rules.labels, name.slice(prefix.length)) === place,
    );
    return other < 0 ? null : other;
  });
  if (named.every((p) => p !== null)) return named;
  if (rules.task !== 'binary') return null;
  const alone =
    position(rules.names?.positive ?? POSITIVE_COLUMN) ??
    named[rules.labels.indexOf(rules.positive ?? '')] ??
    null;
  return alone === null ? null : rules.labels.map((label) => (label === rules.positive ? alone : null));
}

/** "; the nearest is “x”", for a column that is not there. */
export function nearestName(wanted: string, header: readonly string[]): string {
  const same = header.find((name) => name.toLowerCase() === wanted.toLowerCase());
  return same !== undefined
    ? ` (“${same}” is written differently)`
    : header.length > 0
      ? `; the nearest is “${closest(wanted, [...header])}”`
      : '';
}
