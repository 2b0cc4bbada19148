import type { StarterRequest } from './request.js';
import { SieveError } from '../../foundation/errors.js';
import { notebook } from './notebook.js';
import { pythonCells } from './python.js';
import { rCells } from './r.js';

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
