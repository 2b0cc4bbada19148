import { SieveError } from '../../../foundation/errors.js';
import { givenRows } from '../../material/held-out.js';
import { makeFolds, testRows } from '../../../splitting/folds/folds.js';
import { metricNamed } from '../../../metrics/registry.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { targetOf } from '../../../models/prepared/target.js';
import { modelFromSettings } from '../../../models/settings.js';
import { featuresOf, type Roles } from '../../../data/table/roles.js';
import { cellTexts, columnNamed, selectRows } from '../../../data/table/table.js';
import { measureFold } from '../../../evaluation/trials/measure.js';
import { summariseSetting } from '../../../evaluation/trials/summary.js';
import type { Material } from '../../material/material.js';
import type { RunCurve } from '../../material/run-curve.js';

/** Folds of the curve that is computed here, where a question names no run; fewer where there are fewer groups. */
const FOLDS = 10;

/** The metric by which a curve without a run is measured; of classes an error is the rest of the accuracy. */
const METRICS_OF = {
  error: { numbers: 'rmse', classes: 'accuracy' },
  score: { numbers: 'r2', classes: 'accuracy' },
} as const;

/** "over ten folds": how a curve that is computed here is measured, in the words of the sheet. */
export const foldWords = (roles: Pick<Roles, 'group'>): string =>
  `over ten folds of the training rows${roles.group === null ? '' : `, at most one for each ${roles.group}, with each ${roles.group} whole`}`;

/**
 * The curve of a family along one of its settings over ten folds of the training rows, groups kept whole.
 *
 * @throws SieveError `no-curve` with the field that does not fit
 */
export function curveOf(
  material: Material,
  {
    family,
    setting,
    settings,
    measure,
  }: {
    readonly family: string;
    readonly setting: string;
    readonly settings: readonly string[];
    readonly measure: 'error' | 'score';
  },
): RunCurve {
  const { roles } = material;
  const kind = modelFamilyOf({ kind: family });
  const wanted = setting
    .trim()
    .toLowerCase()
    .replace(/[\s-]+/g, '_');
  const along = kind.hyperparameters.find(
    ({ key }) => key === wanted || kind.parameters[key]?.label.toLowerCase() === setting.trim().toLowerCase(),
  );
  if (!along || !kind.tasks.includes(roles.task))
    throw new SieveError(
      'no-curve',
      along
        ? `${kind.title} does not predict for this task.`
        : `${kind.title} has no curve along “${setting}”; name one of ${kind.hyperparameters.map(({ key }) => key).join(', ')}.`,
      { field: along ? 'family' : 'setting' },
    );
  const values = settings.map(Number);
  if (values.some((value) => !Number.isFinite(value)))
    throw new SieveError('no-curve', 'A curve that is computed here has numbers as settings.', {
      field: 'settings',
    });
  const features = featuresOf(material.table, roles).map(({ name }) => name);
  const group = roles.group === null ? [] : [roles.group];
  const table = selectRows(material.table, givenRows(material).rows, [
    ...new Set([...features, roles.target, ...group]),
  ]);
  const target = targetOf(table, roles);
  const grouping = roles.group === null ? null : columnNamed(table, roles.group);
  const groups = grouping ? new Set(cellTexts(grouping)).size : FOLDS;
  if (groups < 2)
    throw new SieveError('no-curve', 'All training rows are of one group: no folds keep groups whole.', {
      field: 'family',
    });
  const k = Math.min(FOLDS, groups);
  const folds = makeFolds(table, {
    method: roles.group === null ? (roles.task === 'regression' ? 'k-fold' : 'stratified') : 'grouped',
    k,
    seed: 0,
    stratify: roles.target,
    ...(roles.group === null ? {} : { group: roles.group }),
  });
  const metric = metricNamed(METRICS_OF[measure][roles.task === 'regression' ? 'numbers' : 'classes']);
  const measured = Array.from({ length: k }, (_, fold) =>
    measureFold({
      table,
      model: modelFromSettings(family, [], 'family'),
      task: roles.task,
      targetName: roles.target,
      group: roles.group,
      target,
      features,
      weights: null,
      seed: 0,
      vary: [{ key: along.key, settings: values }],
      training: folds.training(0, fold),
      test: testRows(folds, 0, fold),
      metrics: [metric],
    }),
  );
  return {
    metric: metric.key,
    points: settings.map((value, i) => {
      const summary = summariseSetting(
        {},
        measured.flatMap(({ figures }) => figures[i] ?? []),
        [metric],
      ).metrics[metric.key];
      return {
        setting: value,
        mean: summary?.mean ?? null,
        se: summary?.se ?? null,
        training: summary?.train ?? null,
      };
    }),
  };
}
