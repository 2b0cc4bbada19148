import type { Plan } from '../../data/sentence/sentence.js';
import type { ColumnKind } from '../../data/table/table.js';
import type { Task } from '../../data/table/roles.js';

/** What a starter repeats: the material of a pack, and one model on it. */
export interface StarterRequest {
  readonly title: string;
  readonly identifier: string;
  readonly target: string;
  readonly task: Task;
  /** Of the classes, in label order; none for numbers. */
  readonly labels: readonly string[];
  readonly positive: string | null;
  /** What a file gives for each row. */
  readonly needs: 'labels' | 'probabilities' | 'numbers';
  readonly features: readonly { readonly name: string; readonly kind: ColumnKind }[];
  /** Whether these are what a screening of all training rows kept. */
  readonly isScreened?: boolean;
  readonly weight: string | null;
  readonly model: Plan;
  /** Whether the pack holds folds.csv, and whether its rows are drawn with replacement. */
  readonly folds: 'none' | 'assigned' | 'drawn';
  readonly seed: number;
  /** By which the folds are judged; left out for accuracy or the root mean squared error. */
  readonly metric?: string;
  /** Whether the pack holds held-out.csv, whose rows are to be predicted; left out where it does. */
  readonly predicts?: boolean;
  /** In which formats the model itself is handed in; null or left out where it is not. */
  readonly saves?: 'any' | 'onnx' | 'pmml' | 'coefficients' | null;
}

/** A piece of a notebook: words, or code. */
export interface Cell {
  readonly kind: 'words' | 'code';
  readonly text: string;
}
