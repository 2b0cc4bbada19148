// What is said of the best of a search, on data that are made up: how much of it is luck, and whether it is better than where the search began.
import { seededRandom } from '../../core/dist/foundation/index.js';
import { indices } from '../../core/dist/foundation/numbers.js';
import { fitModel, judgedBy, modelFamilyOf, modelOf, predictRows } from '../../core/dist/models/index.js';
import { targetRows } from '../../core/dist/models/prepared/target.js';
import { figureOf } from '../../core/dist/metrics/judged.js';
import { metricNamed } from '../../core/dist/metrics/registry.js';
import { drawSettings } from '../../core/dist/evaluation/search/draw.js';
import { luckOf } from '../../core/dist/evaluation/search/luck.js';
import { measureSetting } from '../../core/dist/evaluation/trials/measure.js';

const FOLDS = 5;
const SETTINGS = 20;
const OTHERS = 5000;

const normal = (random) =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

/** Rows of four features of which the first two make the target; the last `OTHERS` of them are never trained on. */
function tableOf(random, rows, isClass, strength) {
  const all = rows + OTHERS;
  const columns = Array.from({ length: 4 }, (_, c) => ({
    kind: /** @type {const} */ ('number'),
    name: `x${c + 1}`,
    values: Float64Array.from({ length: all }, () => normal(random)),
  }));
  const signal = (row) =>
    strength * ((columns[0]?.values[row] ?? 0) + Math.abs(columns[1]?.values[row] ?? 0) - 0.8);
  const values = Float64Array.from({ length: all }, (_, row) => signal(row) + normal(random));
  const target = isClass
    ? {
        kind: /** @type {const} */ ('classes'),
        labels: ['no', 'yes'],
        codes: Int32Array.from(values, (value) => Number(value > 0)),
        positive: 1,
      }
    : { kind: /** @type {const} */ ('numbers'), values };
  return { table: { rowCount: all, columns }, target };
}

const FAMILIES = {
  tree: [
    { key: 'depth', settings: [1, 15] },
    { key: 'rows_per_leaf', settings: [1, 60] },
  ],
  nearest: [{ key: 'neighbours', settings: [1, 100] }],
};

/** A search on one table: what is said of its best, and what the models do on many other rows. */
function searched(random, { kind, rows, isClass, strength, begun }) {
  const { table, target } = tableOf(random, rows, isClass, strength);
  const metric = metricNamed(isClass ? 'roc_auc' : 'rmse');
  const request = {
    table,
    task: isClass ? /** @type {const} */ ('binary') : /** @type {const} */ ('regression'),
    targetName: 'y',
    group: null,
    target,
    features: table.columns.map(({ name }) => name),
    weights: null,
    seed: 1,
  };
  const own = indices(rows);
  const drawn = drawSettings(modelFamilyOf({ kind }), FAMILIES[kind], begun, SETTINGS, random.below(1e6));
  const predictions = drawn.map((values) => {
    const width = isClass ? 2 : 1;
    const out = Array.from({ length: width }, () => new Float64Array(rows));
    for (let fold = 0; fold < FOLDS; fold++) {
      const test = own.filter((row) => row % FOLDS === fold);
      const training = own.filter((row) => row % FOLDS !== fold);
      const { predicted } = measureSetting({ ...request, model: modelOf(kind, values), training, test }, 100);
      predicted.forEach((column, c) => test.forEach((row, i) => (out[c][row] = column[i] ?? 0)));
    }
    return judgedBy(targetRows(target, own), out);
  });
  const luck = luckOf(predictions, metric, null, random);
  const sign = metric.better === 'higher' ? 1 : -1;
  const scores = predictions.map((one) => sign * (figureOf(metric, one).value ?? -Infinity));
  const others = indices(rows + OTHERS).filter((row) => row >= rows);
  const truly = (place) => {
    const fitted = fitModel({
      ...request,
      model: modelOf(kind, drawn[place]),
      rows: own.filter((row) => row % FOLDS > 0),
    });
    return (
      sign *
      (figureOf(metric, judgedBy(targetRows(target, others), predictRows(fitted, table, others))).value ??
        NaN)
    );
  };
  const [best, first] = [truly(scores.indexOf(Math.max(...scores))), truly(0)];
  return { luck, best, first, sign };
}

const KINDS = [
  {
    name: 'trees, 200 rows, no signal',
    kind: 'tree',
    rows: 200,
    isClass: true,
    strength: 0,
    begun: { depth: 3, rows_per_leaf: 10 },
  },
  {
    name: 'trees, 300 rows, from a good setting',
    kind: 'tree',
    rows: 300,
    isClass: true,
    strength: 1,
    begun: { depth: 4, rows_per_leaf: 12 },
  },
  {
    name: 'trees of numbers, 300 rows, from a good setting',
    kind: 'tree',
    rows: 300,
    isClass: false,
    strength: 1,
    begun: { depth: 4, rows_per_leaf: 10 },
  },
  {
    name: 'neighbours, 200 rows, from a good setting',
    kind: 'nearest',
    rows: 200,
    isClass: false,
    strength: 1,
    begun: { neighbours: 10 },
  },
  {
    name: 'trees, 300 rows, from one as deep as it goes',
    kind: 'tree',
    rows: 300,
    isClass: true,
    strength: 1,
    begun: { depth: 15, rows_per_leaf: 1 },
  },
  {
    name: 'neighbours, 200 rows, from a single one',
    kind: 'nearest',
    rows: 200,
    isClass: false,
    strength: 1,
    begun: { neighbours: 1 },
  },
];

/** @returns for each kind of search: luck that is said, luck that there is, leads that are said, and of these those that are none on other rows */
export function searchRun({ tables = 60 } = {}) {
  return KINDS.map(({ name, ...kind }) => {
    const random = seededRandom(20261130, name);
    const found = Array.from({ length: tables }, () => searched(random, kind));
    const mean = (of) => found.reduce((sum, one) => sum + of(one), 0) / tables;
    const isSaid = ({ luck }) => (luck?.lead?.low ?? 0) > 0;
    return {
      name,
      said: mean(({ luck }) => luck?.luck ?? 0),
      // What the best seemed to be over the folds, less what it is on other rows with as many rows to learn from.
      is: mean(({ luck, best, sign }) => sign * (luck?.seen ?? NaN) - best),
      leads: found.filter(isSaid).length,
      wrong: found.filter((one) => isSaid(one) && !(one.best > one.first)).length,
      tables,
    };
  });
}
