import { at } from '../../../foundation/numbers.js';
import { cellText, columnNamed, isMissing, type Table } from '../../../data/table/table.js';
import { MOST_PROBLEMS, type ModelFile, type ModelPredictions } from '../model-file.js';
import type { Score } from './model.js';
import { pictureOf } from './picture.js';
import { readPmml, type PmmlModel } from './pmml.js';
import type { Row, Value } from './row.js';
import { childOf, childrenOf, type Element } from './xml.js';

/** Names of the elements in words. */
const TITLES: Readonly<Record<string, string>> = {
  RegressionModel: 'regression',
  GeneralRegressionModel: 'general regression',
  TreeModel: 'tree',
  MiningModel: 'several models',
  NaiveBayesModel: 'naive Bayes',
  NeuralNetwork: 'neural network',
  NearestNeighborModel: 'nearest neighbours',
  SupportVectorMachineModel: 'support vector machine',
};

/** What a model is in a few words: "tree (TreeModel)", "3 × tree (MiningModel)". */
function outlineOf(element: Element): string {
  const title = ({ name }: Element) => TITLES[name] ?? name;
  const segments = childrenOf(childOf(element, 'Segmentation') ?? element, 'Segment');
  const kinds = segments.flatMap(({ children }) => children.filter(({ name }) => name in TITLES).map(title));
  const counts = [...new Set(kinds)].map((kind) => `${kinds.filter((one) => one === kind).length} × ${kind}`);
  return `${counts.length > 0 ? counts.join(', ') : title(element)} (${element.name})`;
}

/** A PMML file as a model. @throws SieveError `model-file` with the line */
export function pmmlFile(bytes: Uint8Array): ModelFile {
  const model = readPmml(bytes);
  return {
    format: 'pmml',
    inputs: model.shared.inputs.map(({ name, type, values }) => ({
      name,
      takes: type === 'number' || type === 'float' ? 'numbers' : 'texts',
      values,
    })),
    outline: outlineOf(model.element),
    picture: () => pictureOf(model.element),
    predict: (table, columnOf) => Promise.resolve(predictAll(model, table, columnOf)),
  };
}

/** Cells of a column as the model's fields take them: numbers as numbers, all else as text. */
function cellsOf(table: Table, name: string): (row: number) => Value {
  const column = columnNamed(table, name);
  if (column.kind === 'number') return (row) => (isMissing(column, row) ? null : at(column.values, row));
  return (row) => cellText(column, row);
}

function predictAll(
  { shared, scorer }: PmmlModel,
  table: Table,
  columnOf: (input: string) => string,
): ModelPredictions {
  const cells = shared.inputs.map(({ name }) => cellsOf(table, columnOf(name)));
  const row: Row = {
    inputs: new Array<Value>(cells.length).fill(null),
    memo: new Array<Value>(shared.slots).fill(null),
    stamps: new Int32Array(shared.slots),
    stamp: 0,
    problem: null,
  };
  const labels = scorer.classes?.labels ?? null;
  const shares = labels?.map(() => new Float64Array(table.rowCount)) ?? [];
  const problems: { row: number; message: string }[] = [];
  const values = Array.from({ length: table.rowCount }, (_, i) => {
    cells.forEach((cell, c) => (row.inputs[c] = cell(i)));
    row.stamp = i + 1;
    row.problem = null;
    const score = scorer.score(row);
    const problem = problemOf(row, score);
    if (problem !== null && problems.length < MOST_PROBLEMS) problems.push({ row: i, message: problem });
    const value = problem === null ? asPrediction(score, labels !== null) : null;
    shares.forEach((own, label) => (own[i] = value === null ? NaN : (score.shares?.[label] ?? 0)));
    return value;
  });
  return { values, probabilities: labels ? { labels, values: shares } : null, problems };
}

/** Why a row has no prediction; null where it has one. */
function problemOf({ problem }: Row, { value }: Score): string | null {
  if (problem !== null) return problem;
  if (value === null) return 'the model gives no prediction';
  return typeof value === 'number' && !Number.isFinite(value) ? 'the model gives no finite number' : null;
}

const asPrediction = ({ value }: Score, isClass: boolean): number | string | null =>
  value === null || typeof value === 'boolean' || isClass ? String(value) : value;
