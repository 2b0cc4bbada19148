import type { Table } from '../../data/table/table.js';
import { classEvidence, type ClassEvidence } from '../../evaluation/trials/class-evidence.js';
import { diagnoseResiduals } from '../../evaluation/diagnostics/diagnose.js';
import { residualsSay } from '../../evaluation/diagnostics/says.js';
import type { Check } from '../../foundation/check.js';
import { at } from '../../foundation/numbers.js';
import { judgeAgainst, rowsFor, type AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import type { PredictionRules } from '../files/rules.js';
import { classOnRows, type SubgroupInClass } from './class-rows.js';

/** Where one answer of predictions goes wrong. */
export interface AnswerEvidence {
  /** On the final rows. Of two classes with probabilities it has curves; null where numbers are predicted. */
  readonly classes: ClassEvidence | null;
  /** What the residuals on the final rows say, whose order says nothing; null where classes are predicted. */
  readonly residuals: readonly Check[] | null;
  readonly kind: 'labels' | 'numbers';
  /** Of all held-out rows, those that it misses more than others. */
  readonly subgroups: readonly SubgroupInClass[];
}

/**
 * Curves or residuals of one answer, and the subgroups that it misses. Of the rows of the key, so for staff alone.
 *
 * @param predictions aligned to the identifiers of the rules
 * @param features the held-out rows as the pack has them, in the order of the rules
 * @throws SieveError `other-rows` where the features are of other rows
 */
export function answerEvidence(
  key: AnswerKey,
  rules: PredictionRules,
  predictions: Predictions,
  features: Table,
): AnswerEvidence {
  const rows = rowsFor(key, 'final');
  const judged = judgeAgainst(key, predictions, rows);
  const { kind, subgroups } = classOnRows(key, rules, [predictions], features);
  if (judged.kind === 'labels') {
    const groups = key.groups && Int32Array.from(rows, (row) => at(key.groups ?? [], row));
    return { classes: classEvidence(judged.data, groups), residuals: null, kind, subgroups };
  }
  const { truth, predicted } = judged.data;
  const residuals = truth.map((value, row) => value - at(predicted, row));
  const says = residualsSay(diagnoseResiduals(residuals, [])).filter(({ id }) => id !== 'neighbours');
  return { classes: null, residuals: says, kind, subgroups };
}
