import {
  importancesOf,
  isOf,
  treeForm,
  modelFamilyOf,
  rulesOf,
  sizeOf,
  type Fitted,
  type Growth,
} from '@modest-sieve/core/models';
import { type SettingSummary } from '@modest-sieve/core/evaluation';
import { inColumns, shown } from '../text.js';

/** What a family has to show of itself. */
export function describe(fitted: Fitted): Record<string, unknown> {
  const { coefficients, figures, growth, members, path, removed } = fitted.description;
  const { state } = fitted;
  const importances = importancesOf(fitted);
  return {
    ...(coefficients
      ? {
          coefficients: coefficients.map(({ oddsRatio, label, ...rest }) => ({
            ...rest,
            ...(label === null ? {} : { label }),
            ...(oddsRatio === null ? {} : { odds_ratio: oddsRatio }),
          })),
        }
      : {}),
    ...(figures ? { fit: figures } : {}),
    ...(removed && removed.length > 0 ? { removed } : {}),
    ...(path
      ? {
          path: path.points.map(({ penalty, intercept, coefficients: own, nonzero, devianceRatio }) => ({
            penalty,
            intercept,
            nonzero,
            deviance_ratio: devianceRatio,
            coefficients: Object.fromEntries(path.terms.map((term, c) => [term, own[c] ?? 0])),
          })),
        }
      : {}),
    ...(isOf(treeForm, state) ? { tree: { nodes: state.nodes, rules: rulesOf(state) } } : {}),
    ...(importances.length > 0 ? { importances } : {}),
    ...(growth ? grownAs(growth) : {}),
    ...(members ? { members } : {}),
  };
}

/** The error as a model grew: out of bag by trees, or the curve by rounds or epochs. */
function grownAs({ of, measure, training, heldOut }: Growth): Record<string, unknown> {
  if (heldOut?.rows === 'out of bag')
    return { out_of_bag: { error: heldOut.values.at(-1) ?? null, measure, [`by_${of}`]: heldOut.values } };
  return { [`by_${of}`]: { measure, training, validation: heldOut?.values ?? null } };
}

export function textOf(
  fitted: Fitted,
  train: Record<string, number | null>,
  summary: SettingSummary | undefined,
) {
  const { coefficients, figures = {}, members } = fitted.description;
  const importances = importancesOf(fitted);
  const size = sizeOf(fitted);
  const over = (key: string): readonly string[] => {
    const own = summary?.metrics[key];
    return own ? [shown(own.mean), shown(own.se)] : [];
  };
  return [
    `${modelFamilyOf(fitted.model).title}${size ? `, ${size.count} ${size.of}` : ''}`,
    inColumns(
      ['figure', 'training', ...(summary ? ['mean over folds', 's.e.'] : [])],
      Object.entries(train).map(([key, value]) => [key, shown(value), ...over(key)]),
    ),
    ...(coefficients
      ? [
          inColumns(
            ['term', 'estimate', 's.e.', 'statistic', 'p'],
            coefficients.map(({ term, label, estimate, se, statistic, p }) => [
              label === null ? term : `${label}: ${term}`,
              ...[estimate, se, statistic, p].map(shown),
            ]),
          ),
        ]
      : []),
    ...(isOf(treeForm, fitted.state)
      ? rulesOf(fitted.state)
          .slice(0, 60)
          .map(({ conditions }) => conditions.join(', ') || 'all rows')
      : []),
    ...(fitted.description.growth?.heldOut?.rows === 'out of bag'
      ? [
          `out of bag, ${fitted.description.growth.measure} ${shown(fitted.description.growth.heldOut.values.at(-1) ?? null)}`,
        ]
      : []),
    ...(members
      ? [
          inColumns(
            ['model', 'share', 'squared error out of fold'],
            members.map(({ model, weight, error }) => [model, shown(weight), shown(error)]),
          ),
        ]
      : []),
    ...(importances.length > 0
      ? [
          inColumns(
            ['feature', 'importance'],
            importances.map(({ feature, share }) => [feature, shown(share)]),
          ),
        ]
      : []),
    ...Object.entries(figures).map(([key, value]) => `${key} ${shown(value)}`),
  ].join('\n');
}
