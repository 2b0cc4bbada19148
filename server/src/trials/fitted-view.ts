import {
  importancesOf,
  isOf,
  treeForm,
  bayesForm,
  densitiesOf,
  rulesOf,
  sampleOf,
  targetOf,
  targetRows,
  type Fitted,
} from '@modest-sieve/core/models';
import type { Roles, Table } from '@modest-sieve/core/data';
import type { FittedView } from '../api/api.js';

/** Nodes of the largest tree that is sent to be drawn, and rules that are written. */
const MOST_NODES = 2000;
const MOST_RULES = 200;

/** What a fitted model has to show of itself, with the densities of the rows that it is trained on. */
export function viewOf(fitted: Fitted, table: Table, roles: Roles, rows: Int32Array): FittedView {
  const { description, state, recipe } = fitted;
  const target = targetRows(targetOf(table, roles), rows);
  const tree = isOf(treeForm, state) ? state : null;
  return {
    labels: fitted.labels,
    features: recipe.features.map((feature) => ({
      name: feature.name,
      kind: feature.kind,
      levels: feature.kind === 'category' ? feature.levels : [],
      fill: feature.kind === 'number' ? feature.fill : null,
      low: feature.kind === 'number' ? feature.low : null,
      high: feature.kind === 'number' ? feature.high : null,
    })),
    coefficients: description.coefficients ?? [],
    removed: description.removed ?? [],
    figures: description.figures ?? {},
    path: description.path ?? null,
    tree: tree && tree.nodes.length <= MOST_NODES ? tree : null,
    rules: tree ? rulesOf(tree).slice(0, MOST_RULES) : [],
    importances: importancesOf(fitted),
    growth: description.growth ?? null,
    members: description.members ?? [],
    densities:
      isOf(bayesForm, state) && target.kind === 'classes'
        ? densitiesOf(state, sampleOf(recipe, table, rows).features, target)
        : [],
  };
}
