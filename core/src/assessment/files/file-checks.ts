import { count, counted } from '../../foundation/numbers.js';
import { check, MOST_EXAMPLES, type Check } from '../../foundation/check.js';
import type { Layout } from './layout.js';
import type { FileOffences } from './offences.js';
import type { PredictionRules } from './rules.js';

/** Probabilities of a row may miss 1 by this much. */
export const SUM_TOLERANCE = 1e-3;

/**
 * The checks of a file's records from what was found wrong with them.
 *
 * @param rows records under the header
 */
export function fileChecks(
  rules: PredictionRules,
  layout: Layout,
  rows: number,
  found: FileOffences,
): Check[] {
  const regression = rules.task === 'regression';
  const labels = rules.labels.map((label) => `“${label}”`).join(', ');
  const what = regression ? 'number' : layout.probabilities ? 'probability' : 'label';
  const checks: (Check | null)[] = [
    rowsCheck(rules, rows, found),
    judge('complete', found.blank, {
      holds: `Every row has a ${what}`,
      fails: 'Some rows have no prediction.',
      expected: 'a prediction in every row',
    }),
  ];
  if (layout.label !== null && !regression) {
    checks.push(
      judge('labels', found.foreign, {
        holds: `Only the labels ${labels}`,
        fails: 'Some labels are not among those asked for.',
        expected: labels,
      }),
    );
  }
  if (regression || layout.probabilities) {
    checks.push(
      judge('numbers', found.malformed, {
        holds: regression ? 'Every prediction is a number' : null,
        fails: 'Some cells are not numbers.',
        expected: 'numbers such as 0.25 or 1e-3',
      }),
    );
  }
  if (layout.probabilities) {
    checks.push(
      judge('range', found.outside, {
        holds: 'Probabilities between 0 and 1',
        fails: 'Some probabilities lie outside 0 to 1.',
        expected: 'between 0 and 1',
      }),
      judge('sums', found.sums, {
        holds: layout.probabilities.includes(null) ? null : 'Probabilities of a row sum to 1',
        fails: 'Probabilities of some rows do not sum to 1.',
        expected: `1, give or take ${SUM_TOLERANCE}`,
      }),
    );
  }
  return checks.filter((c) => c !== null);
}

interface Verdicts {
  /** Said when nothing is wrong; null where that goes without saying. */
  readonly holds: string | null;
  readonly fails: string;
  readonly expected: string;
}

function judge(
  id: string,
  offences: FileOffences[keyof FileOffences],
  { holds, fails, expected }: Verdicts,
): Check | null {
  if (offences.total === 0) return holds === null ? null : check(id, 'holds', holds);
  return check(id, 'fails', fails, {
    measured: counted(offences.total, 'row'),
    expected,
    examples: offences.examples,
  });
}

/**
 * Whether each row that is asked for is in a file exactly once.
 *
 * @param rows records under the header
 */
export function rowsCheck(
  { identifier, identifiers: { length: n } }: Pick<PredictionRules, 'identifier' | 'identifiers'>,
  rows: number,
  { missing, unknown, repeated }: Pick<FileOffences, 'missing' | 'unknown' | 'repeated'>,
  of = 'held-out file',
): Check {
  const faults = [
    missing.total > 0 ? `${counted(missing.total, 'row')} missing` : null,
    unknown.total > 0 ? `${count(unknown.total)} not asked for` : null,
    repeated.total > 0 ? `${count(repeated.total)} repeated` : null,
  ].filter((fault) => fault !== null);
  if (faults.length === 0) return check('rows', 'holds', `${counted(n, 'row')}, every ${identifier} once`);
  // At least one example of each fault, whichever is most frequent.
  const kinds = [missing, unknown, repeated].filter((offences) => offences.total > 0);
  const examples = kinds.flatMap((o) => o.examples.slice(0, Math.max(1, MOST_EXAMPLES - kinds.length + 1)));
  return check('rows', 'fails', `Each ${identifier} must appear exactly once: ${faults.join(', ')}.`, {
    measured: `${count(n - missing.total)} of ${count(n)} found in ${counted(rows, 'row')}`,
    expected: `${counted(n, 'row')}, each ${identifier} of the ${of} once`,
    examples,
  });
}
