import { SieveError } from '../../../foundation/errors.js';
import { at, counted } from '../../../foundation/numbers.js';
import { MOST_PROBLEMS, type ModelFile, type ModelInput, type ModelPredictions } from '../model-file.js';
import { coefficientsPicture } from '../pictures.js';
import { readCoefficients } from './read-coefficients.js';
import { factorsIn, factorsOf } from './terms.js';

/** What a table of coefficients does not say itself. */
export interface CoefficientLink {
  readonly link: 'identity' | 'logit' | 'log';
  /** The class whose probability a logit gives, and the other one. */
  readonly positive?: string;
  readonly negative?: string;
}

/**
 * A table of coefficients as a model.
 *
 * @param columns the columns of the data, by which names with colons and equals signs are distinguished from terms
 * @throws SieveError `model-file` with the line
 */
export function coefficientTable(
  bytes: Uint8Array,
  file: string,
  { link, positive, negative }: CoefficientLink,
  columns: readonly string[],
): ModelFile {
  if (link === 'logit' && (positive === undefined || negative === undefined))
    throw new SieveError('model-file', 'A logit needs the names of both classes.', { field: 'positive' });
  const isColumn = (name: string) => columns.includes(name);
  const terms = readCoefficients(bytes, file).map((one) => ({
    ...one,
    factors: factorsOf(one.term, isColumn),
  }));
  const inputs = new Map<string, ModelInput>();
  for (const { term, line, factors } of terms)
    for (const factor of factors) {
      if (!isColumn(factor.column))
        throw new SieveError(
          'model-file',
          `Line ${line}: the term “${term}” needs the column “${factor.column}”, which the data do not have.`,
          { file, line, field: factor.column },
        );
      inputs.set(factor.column, {
        name: factor.column,
        takes: factor.kind === 'level' ? 'texts' : 'numbers',
        // Levels without a term are the reference.
        values: null,
      });
    }
  return {
    format: 'coefficients',
    inputs: [...inputs.values()],
    outline: `${counted(terms.length, 'coefficient')}, ${link} link`,
    picture: () => coefficientsPicture(terms),
    predict(table, columnOf) {
      const sums = new Float64Array(table.rowCount);
      const multiply = factorsIn(table, columnOf);
      const product = new Float64Array(table.rowCount);
      for (const { estimate, factors } of terms) {
        product.fill(estimate);
        for (const factor of factors) multiply(product, factor);
        for (let row = 0; row < sums.length; row++) sums[row] = (sums[row] ?? 0) + (product[row] ?? 0);
      }
      return Promise.resolve(predictionsOf(sums, { link, positive, negative }));
    },
  };
}

function predictionsOf(
  sums: Float64Array,
  { link, positive, negative }: { [K in keyof CoefficientLink]: CoefficientLink[K] | undefined },
): ModelPredictions {
  const problems: { row: number; message: string }[] = [];
  sums.forEach((sum, row) => {
    if (!Number.isFinite(sum) && problems.length < MOST_PROBLEMS)
      problems.push({ row, message: 'a value that a term needs is missing, or has no logarithm' });
  });
  const valueAt = <T>(row: number, value: (sum: number) => T): T | null => {
    const sum = at(sums, row);
    return Number.isFinite(sum) ? value(sum) : null;
  };
  const rows = Array.from(sums.keys());
  if (link !== 'logit' || positive === undefined || negative === undefined)
    return {
      values: rows.map((row) => valueAt(row, (sum) => (link === 'log' ? Math.exp(sum) : sum))),
      probabilities: null,
      problems,
    };
  const own = sums.map((sum) => (Number.isFinite(sum) ? 1 / (1 + Math.exp(-sum)) : NaN));
  return {
    // At 0.5 exactly the positive class, as files of probabilities are read.
    values: rows.map((row) => valueAt(row, (sum) => (sum >= 0 ? positive : negative))),
    probabilities: { labels: [negative, positive], values: [own.map((share) => 1 - share), own] },
    problems,
  };
}
