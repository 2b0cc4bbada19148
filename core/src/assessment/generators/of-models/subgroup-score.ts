import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import { figureOf } from '../../../metrics/judged.js';
import type { Figure } from '../../../metrics/metric.js';
import { cellText, columnNamed } from '../../../data/table/table.js';
import { judgedBy, predictRows } from '../../../models/fitted.js';
import { targetRows } from '../../../models/prepared/target.js';
import { largestOf } from '../extreme-name.js';
import { askedOf, figures, generator, type Asked } from '../generator.js';
import { valueCounts } from '../of-data/column-counts.js';
import { checkFitted, FEATURES, fitTo, givenModel, modelParameter } from './fitted-model.js';
import { METRIC, metricFor } from './judged-rows.js';

/** The subgroup with the worst score, of those whose score is defined. */
const worstOf = (
  scores: readonly { readonly name: string; readonly figure: Figure }[],
  isHigherBetter: boolean,
): Asked =>
  largestOf(
    { key: 'worst_subgroup', name: 'subgroup with the worst score' },
    scores.flatMap(({ name, figure }) =>
      figure.value === null ? [] : [[name, isHigherBetter ? -figure.value : figure.value] as const],
    ),
    'subgroups',
  );

export const subgroupScore = generator({
  key: 'subgroup-score',
  title: 'scores of a model by subgroup',
  about:
    'A metric of a model on the training rows of one subgroup and on all others, their difference, and the subgroup with the worst score; rows without a subgroup are among the others.',
  text: 'Fit {model} of **{target}** on {features} to the training rows, and judge it there by {metric}, by **{by}**. The subgroup is “{group}”. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('tree depth=3'),
    features: FEATURES,
    metric: METRIC,
    by: { type: 'column', label: 'subgroups', of: ['category', 'boolean', 'text'] },
    group: { type: 'text', label: 'subgroup', start: '' },
    asked: figures(
      [
        'score of the subgroup',
        'score of all other rows',
        'difference of the two',
        'subgroup with the worst score',
      ],
      ['score of the subgroup', 'score of all other rows'],
    ),
  },
  sentence: () =>
    'Fit {model} on {features}, judge it by {metric} and {by} on the training rows, and ask for {asked}; the subgroup is {group}.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    metricFor(values.metric, roles.task);
  },
  compute({ model, features, metric: key, by, group: given, asked }, { table, roles }) {
    const { fitted, request } = fitTo(table, roles, { model, features });
    const metric = metricFor(key, roles.task);
    const column = columnNamed(table, by);
    const group = given.trim();
    const names = valueCounts(column, table.rowCount).map(([name]) => name);
    if (!names.includes(group))
      throw new SieveError('no-figure', `No training row has “${group}” in ${by}.`, { field: 'group' });
    const scoreOf = (takesPart: (text: string | null) => boolean): Figure => {
      const rows = request.rows.filter((row) => takesPart(cellText(column, row)));
      if (rows.length === 0) return { value: null, reason: 'there is no such row' };
      return figureOf(
        metric,
        judgedBy(
          targetRows(request.target, rows),
          predictRows(fitted, table, rows),
          fitted.recipe.features.length,
        ),
      );
    };
    const own = scoreOf((text) => text === group);
    const others = scoreOf((text) => text !== group);
    return {
      given: { ...givenModel(table, request, features), metric: metric.name, by, group },
      table: null,
      asked: [
        ...askedOf(
          {
            'score of the subgroup': own,
            'score of all other rows': others,
            'difference of the two':
              own.value === null ? own : others.value === null ? others : { value: own.value - others.value },
          },
          asked,
        ),
        ...(asked.includes('subgroup with the worst score')
          ? [
              worstOf(
                names.map((name) => ({ name, figure: scoreOf((text) => text === name) })),
                metric.better === 'higher',
              ),
            ]
          : []),
      ],
    };
  },
});

/** How often two models say the same. */
export const modelsAgree = generator({
  key: 'models-agree',
  title: 'agreement of two models',
  about:
    'Of two models of classes, both fitted to the training rows, the share of these rows for which both say the same class, and how many rows they answer differently.',
  text: 'Fit {model} and {second} of **{target}** on {features} to the training rows, and compare what they say there. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('tree depth=3'),
    second: { type: 'text', label: 'the second model', start: 'naive-bayes' },
    features: FEATURES,
    asked: figures(['share alike', 'rows that differ'], ['share alike', 'rows that differ']),
  },
  sentence: () => 'Fit {model} and {second} on {features} to the training rows, and ask for {asked}.',
  check: ({ model, second, features }, columns, roles) => {
    checkFitted({ model, features }, columns, roles);
    checkFitted({ model: second, features }, columns, roles);
    if (roles.task === 'regression')
      throw new SieveError('no-figure', 'Agreement needs a target of classes.', { field: 'model' });
  },
  compute({ model, second, features, asked }, { table, roles }) {
    const both = [model, second].map((line) => fitTo(table, roles, { model: line, features }));
    const [first, other] = both.map(({ fitted, request }) => {
      const judged = judgedBy(
        targetRows(request.target, request.rows),
        predictRows(fitted, table, request.rows),
      );
      if (judged.kind === 'numbers')
        throw new SieveError('no-figure', 'Agreement needs a target of classes.', { field: 'model' });
      return judged.data.predicted;
    });
    const { request } = at(both, 0);
    const alike = (first ?? []).filter((code, row) => code === other?.[row]).length;
    const rows = request.rows.length;
    return {
      given: {
        ...givenModel(table, request, features),
        second: givenModel(table, at(both, 1).request, features)['model'] ?? '',
      },
      table: null,
      asked: askedOf({ 'share alike': alike / rows, 'rows that differ': rows - alike }, asked),
    };
  },
});
