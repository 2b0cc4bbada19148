import { SieveError } from '../errors.js';
import type { Planned } from '../sentence/sentence.js';
import type { ColumnKind } from '../table/table.js';
import type { Task } from '../table/roles.js';
import { notebook } from './notebook.js';
import { pythonCells } from './python.js';
import { rCells } from './r.js';

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
  readonly weight: string | null;
  readonly model: Planned;
  /** Whether the pack holds folds.csv, and whether its rows are drawn with replacement. */
  readonly folds: 'none' | 'dealt' | 'drawn';
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

/** Every form of a starter, with the name of its file. */
export const STARTERS = {
  python: { file: 'starter-python.ipynb', type: 'application/x-ipynb+json' },
  r: { file: 'starter-r.ipynb', type: 'application/x-ipynb+json' },
  script: { file: 'starter.py', type: 'text/x-python' },
} as const;

export type StarterForm = keyof typeof STARTERS;

/** @throws SieveError `starter` for a form that is not known */
export function starterForm(form: string): StarterForm {
  if (form === 'python' || form === 'r' || form === 'script') return form;
  throw new SieveError(
    'starter',
    `There is no starter “${form}”; there are ${Object.keys(STARTERS).join(', ')}.`,
    {
      field: 'as',
    },
  );
}

/**
 * A starter as a file: a notebook (nbformat 4) for Python or R, or a plain Python script. It loads the files of a pack
 * beside it, learns the preparation from the training rows, judges the model over the folds where there are any, fits it
 * and writes predictions.csv in the form that is checked, or the model in a format that is taken.
 */
export function writeStarter(asked: StarterRequest, form: StarterForm): string {
  const request = { ...asked, title: asked.title.replace(/[\p{Cc}\p{Zl}\p{Zp}]+/gu, ' ') };
  if (form === 'r') return notebook(rCells(request), 'r');
  const cells = pythonCells(request);
  if (form === 'python') return notebook(cells, 'python');
  const asComment = (text: string) =>
    text
      // Whatever a program may take for the end of a line: a statement never follows a name in a comment.
      .split(/[\p{Cc}\p{Zl}\p{Zp}]/u)
      .map((line) => (line === '' ? '#' : `# ${line}`))
      .join('\n');
  return `${cells.map(({ kind, text }) => (kind === 'words' ? asComment(text) : text)).join('\n\n')}\n`;
}
