import type { AnswerKey } from '../files/judge.js';
import { exampleHeader, type PredictionRules } from '../files/rules.js';
import { at } from '../../foundation/numbers.js';
import { rowsOfPart } from '../../splitting/parts/parts.js';
import { labelsOf } from '../../data/table/labels.js';
import { columnNamed } from '../../data/table/table.js';
import type { Material } from './material.js';

/** What is true of some rows, by the target of the roles. */
export function answersTo(
  { table, roles }: Material,
  rows: Int32Array,
): Pick<AnswerKey, 'task' | 'labels' | 'positive' | 'classes' | 'values'> {
  const target = columnNamed(table, roles.target);
  const classes = roles.task === 'regression' ? null : labelsOf(target);
  return {
    task: roles.task,
    labels: classes?.labels ?? [],
    positive: roles.positive,
    classes: classes && rows.map((row) => at(classes.codes, row)),
    values:
      !classes && target.kind === 'number' ? Float64Array.from(rows, (row) => at(target.values, row)) : null,
  };
}

/** The cells of a row that passes every check and knows nothing: the same for every row, from the training rows. */
export function idleCells(rules: PredictionRules, { table, roles, parts }: Material): string[] {
  const columns = exampleHeader(rules).length - 1;
  switch (rules.needs) {
    case 'numbers': {
      const target = columnNamed(table, roles.target);
      const training = rowsOfPart(parts, 0);
      const numbers = target.kind === 'number' ? Array.from(training, (row) => at(target.values, row)) : [];
      return [(numbers.reduce((a, b) => a + b, 0) / numbers.length).toPrecision(4)];
    }
    case 'labels':
      return [at(rules.labels, 0)];
    case 'probabilities': {
      const even = Math.floor(1e6 / rules.labels.length) / 1e6;
      return Array.from({ length: columns }, () => String(columns === 1 ? 0.5 : even));
    }
  }
}
