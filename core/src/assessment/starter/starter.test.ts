import { describe, expect, it } from '@jest/globals';
import { MODEL_FAMILIES, modelOf } from '../../models/registry.js';
import { starterForm, writeStarter } from './starter.js';
import type { StarterRequest } from './request.js';

const request: StarterRequest = {
  title: 'Which colonies will survive?',
  identifier: 'colony',
  target: 'survived',
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  needs: 'probabilities',
  features: [
    { name: 'mite "wash"', kind: 'number' },
    { name: 'forage', kind: 'category' },
    { name: 'inspected', kind: 'time' },
    { name: 'notes', kind: 'text' },
  ],
  weight: null,
  model: modelOf('tree', { depth: 4 }),
  folds: 'assigned',
  seed: 7,
};

interface Notebook {
  nbformat: number;
  metadata: { kernelspec: { name: string } };
  cells: { cell_type: string; source: string[]; outputs?: unknown[]; id: string }[];
}

const read = (form: 'python' | 'r', more: Partial<StarterRequest> = {}): Notebook =>
  JSON.parse(writeStarter({ ...request, ...more }, form)) as Notebook;
const codeOf = ({ cells }: Notebook) =>
  cells.flatMap(({ cell_type, source }) => (cell_type === 'code' ? [source.join('')] : [])).join('\n');

describe('a starter', () => {
  it.each(['python', 'r'] as const)('for %s is a notebook of format 4 without outputs', (form) => {
    const notebook = read(form);
    expect(notebook.nbformat).toBe(4);
    expect(notebook.metadata.kernelspec.name).toBe(form === 'r' ? 'ir' : 'python3');
    expect(
      notebook.cells.every(({ cell_type, outputs }) => cell_type === 'markdown' || outputs?.length === 0),
    ).toBe(true);
    expect(new Set(notebook.cells.map(({ id }) => id)).size).toBe(notebook.cells.length);
  });

  it('names the columns by their kind, quotes and all, and passes over free text', () => {
    const code = codeOf(read('python'));
    expect(code).toContain('numbers = ["mite \\"wash\\"", "inspected"]');
    expect(code).toContain('categories = ["forage"]');
    expect(code).not.toContain('notes');
    expect(code).toContain('max_depth=4');
  });

  it('writes the columns that the check asks for', () => {
    expect(codeOf(read('python'))).toContain('answers["probability"] = chances["yes"]');
    expect(codeOf(read('python', { needs: 'labels' }))).toContain('answers["prediction"]');
    expect(codeOf(read('python', { task: 'multiclass', labels: ['a', 'b', 'c'], positive: null }))).toContain(
      '"p:" + label',
    );
    expect(codeOf(read('r'))).toContain('probability = found[, 2]');
  });

  it('judges over the folds of the pack only where there are any', () => {
    expect(codeOf(read('python'))).toContain('folds.csv');
    expect(codeOf(read('python', { folds: 'none' }))).not.toContain('folds.csv');
    expect(codeOf(read('r', { folds: 'drawn' }))).toContain('folds$drawn');
  });

  it('of a model that is handed in saves it as it is taken, and predicts what the pack holds alone', () => {
    const more = {
      model: modelOf('logistic'),
      predicts: false,
      saves: 'any' as const,
      folds: 'none' as const,
    };
    const [python, r] = [codeOf(read('python', more)), codeOf(read('r', more))];
    for (const code of [python, r]) {
      expect(code).toContain('"model.csv"');
      expect(code).not.toMatch(/held.out|predictions\.csv|inspected/);
    }
    expect(python).toContain('from skl2onnx import to_onnx');
    expect(r).toContain('requireNamespace("pmml"');
    const other = (more: Partial<StarterRequest>) =>
      codeOf(read('python', { model: modelOf('logistic'), ...more }));
    expect(other({ saves: 'onnx' })).not.toContain('model.csv');
    expect(other({ saves: 'coefficients' })).not.toContain('skl2onnx');
    expect(
      other({ saves: 'any', task: 'multiclass', labels: ['a', 'b', 'c'], positive: null }),
    ).not.toContain('model.csv');
    expect(other({})).not.toMatch(/model\.csv|skl2onnx/);
  });

  it('as a script is the code of the notebook, with its words as comments', () => {
    const script = writeStarter(request, 'script');
    expect(script.startsWith('# # Which colonies will survive?')).toBe(true);
    for (const line of codeOf(read('python')).split('\n')) expect(script).toContain(line);
  });

  it.each(['\r', '\n', '\r\n', '\v', '\f', '\u0085', '\u2028'])(
    'never runs what is in a title or a name of a column after %j',
    (end) => {
      const said = `x${end}import os`;
      const features = [...request.features, { name: said, kind: 'text' as const }];
      const script = writeStarter({ ...request, title: said, features }, 'script');
      expect(script).toContain('import os');
      for (const line of script.split(/[\r\n\v\f\u0085\u2028]/)) expect(line).not.toMatch(/^\s*import os/);
    },
  );

  it('there is one for every family and task, in both languages', () => {
    for (const { key, tasks } of MODEL_FAMILIES)
      for (const task of tasks) {
        const labels = task === 'regression' ? [] : task === 'binary' ? ['no', 'yes'] : ['a', 'b', 'c'];
        const needs = task === 'regression' ? ('numbers' as const) : ('probabilities' as const);
        const asked = {
          model: modelOf(key),
          task,
          labels,
          needs,
          positive: task === 'binary' ? 'yes' : null,
        };
        expect(codeOf(read('python', asked))).toMatch(/^ {4}model = /m);
        expect(codeOf(read('r', asked))).toContain('fit_model <- function(rows)');
      }
  });

  it('of another form is refused', () => {
    expect(starterForm('r')).toBe('r');
    expect(() => starterForm('cobol')).toThrow('there are python, r, script');
  });
});

describe('a starter of three classes', () => {
  it('has a logistic regression that its language knows', () => {
    const more = {
      task: 'multiclass' as const,
      labels: ['a', 'b', 'c'],
      positive: null,
      model: modelOf('logistic'),
    };
    expect(codeOf(read('r', more))).toContain(
      'fit_model <- function(rows) multinom(as_formula, rows, trace = FALSE, maxit = 1000)',
    );
    expect(codeOf(read('r', more))).toContain('library(nnet)');
    expect(codeOf(read('python', more))).toMatch(/LogisticRegression\(/);
  });
});
