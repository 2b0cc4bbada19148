import { SieveError } from '../../../foundation/errors.js';
import { shortNumber } from '../../../foundation/numbers.js';
import { figureOf } from '../../../metrics/judged.js';
import type { Figure } from '../../../metrics/metric.js';
import { cellText, columnNamed } from '../../../data/table/table.js';
import { fitModel, judgedBy, predictRows, type Fitted } from '../../../models/fitted.js';
import { targetRows } from '../../../models/prepared/target.js';
import { askedOf, figures, generator } from '../generator.js';
import { checkFitted, FEATURES, givenModel, modelParameter, requestFor } from './fitted-model.js';
import { METRIC, metricFor } from './judged-rows.js';

/**
 * Families whose fit with row weights is one thing in every program: others standardise with the weights or without them, or
 * take no weights.
 */
const WEIGHTED = ['linear', 'logistic', 'tree'];

/** @throws SieveError `plan-value` for a model of another family */
function checkWeighted(line: string): void {
  const [family = ''] = line.trim().split(/\s+/);
  if (!WEIGHTED.includes(family))
    throw new SieveError(
      'plan-value',
      `Fits with weights differ between programs but for ${WEIGHTED.join(', ')}: take one of these.`,
      { field: 'model' },
    );
}

const change = (after: Figure, before: Figure): Figure => {
  if (after.value === null) return after;
  return before.value === null ? before : { value: after.value - before.value };
};

export const weightedScore = generator({
  key: 'weighted-score',
  title: 'what weight on a subgroup changes',
  about:
    'A model is fitted to the training rows with more weight on those of one subgroup, and judged there without weights: on the rows of the subgroup, on all others, and by how much both figures change from the model without weights.',
  text: 'Fit {model} of **{target}** on {features} to the training rows, in which each row whose **{by}** is “{group}” weighs {weight} and every other 1. Judge it on the same rows by {metric}, without weights. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('linear'),
    features: FEATURES,
    metric: METRIC,
    by: { type: 'column', label: 'subgroups', of: ['category', 'boolean', 'text'] },
    group: { type: 'text', label: 'subgroup', start: '' },
    weight: { type: 'number', label: 'weight of its rows', min: 0.01, max: 1000, start: 5 },
    asked: figures(
      [
        'score of the subgroup',
        'score of all other rows',
        'change on the subgroup',
        'change on all other rows',
      ],
      ['score of the subgroup', 'change on all other rows'],
    ),
  },
  sentence: () =>
    'Fit {model} on {features}, with weight {weight} on the training rows whose {by} is {group}, judge it by {metric}, and ask for {asked}.',
  check: (values, columns, roles) => {
    checkWeighted(values.model);
    checkFitted(values, columns, roles);
    metricFor(values.metric, roles.task);
  },
  compute({ model, features, metric: key, by, group: given, weight, asked }, { table, roles }) {
    checkWeighted(model);
    const request = requestFor(table, roles, { model, features });
    const metric = metricFor(key, roles.task);
    const column = columnNamed(table, by);
    const group = given.trim();
    const isIn = (row: number) => cellText(column, row) === group;
    const [own, others] = [request.rows.filter(isIn), request.rows.filter((row) => !isIn(row))];
    if (own.length === 0)
      throw new SieveError('no-figure', `No training row has “${group}” in ${by}.`, { field: 'group' });
    const weights = Float64Array.from({ length: table.rowCount }, (_, row) => (isIn(row) ? weight : 1));
    const [plain, weighted] = [fitModel(request), fitModel({ ...request, weights })];
    const score = (fitted: Fitted, rows: Int32Array): Figure =>
      rows.length === 0
        ? { value: null, reason: 'there is no such row' }
        : figureOf(
            metric,
            judgedBy(
              targetRows(request.target, rows),
              predictRows(fitted, table, rows),
              fitted.recipe.features.length,
            ),
          );
    const [ofGroup, ofOthers] = [score(weighted, own), score(weighted, others)];
    return {
      given: {
        ...givenModel(table, request, features),
        ...{ metric: metric.name, by, group, weight: shortNumber(weight) },
      },
      table: null,
      asked: askedOf(
        {
          'score of the subgroup': ofGroup,
          'score of all other rows': ofOthers,
          'change on the subgroup': change(ofGroup, score(plain, own)),
          'change on all other rows': change(ofOthers, score(plain, others)),
        },
        asked,
      ),
    };
  },
});
