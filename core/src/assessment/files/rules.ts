import type { Task } from '../../data/table/roles.js';
import type { Metric } from '../../metrics/metric.js';

/** What is predicted. */
export interface TargetRules {
  readonly task: Task;
  /** All labels in label order; empty where numbers are predicted. */
  readonly labels: readonly string[];
  readonly positive: string | null;
  readonly needs: Metric['needs'];
}

/** What a file of predictions must look like. It names rows and labels and shows no answer. */
export interface PredictionRules extends TargetRules {
  /** Name of the identifier column. */
  readonly identifier: string;
  /** The rows to be predicted, in the order of the pack. */
  readonly identifiers: readonly string[];
  /** Names of the columns of labels and of the positive probability, where they are not the usual ones. */
  readonly names?: { readonly label?: string; readonly positive?: string };
}

export const LABEL_COLUMN = 'prediction';
export const POSITIVE_COLUMN = 'probability';
export const probabilityColumn = (label: string): string => `p:${label}`;

/** The header of a file that would be accepted, in its plainest form. */
export function exampleHeader(rules: PredictionRules): string[] {
  if (rules.needs !== 'probabilities') return [rules.identifier, LABEL_COLUMN];
  if (rules.task === 'binary') return [rules.identifier, POSITIVE_COLUMN];
  return [rules.identifier, ...rules.labels.map(probabilityColumn)];
}
