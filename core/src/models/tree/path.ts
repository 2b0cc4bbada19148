import { at } from '../../foundation/numbers.js';
import type { Sample } from '../contract/sample.js';
import { branchText } from './rules.js';
import { treeColumns } from '../trees/columns.js';
import { type TreeState } from './state.js';

/**
 * What holds of a row on its way to a node, from the root. A row whose value is missing, or a level that the node has not met,
 * is said to go with most rows.
 *
 * @param one the row alone
 */
export function pathTo({ nodes }: TreeState, one: Sample, node: number): string[] {
  const parents = new Map<number, { readonly place: number; readonly child: number }>();
  nodes.forEach(({ split }, place) =>
    split?.children.forEach((own, child) => parents.set(own, { place, child })),
  );
  const columns = treeColumns(one.features);
  const conditions: string[] = [];
  for (let step = parents.get(node); step; step = parents.get(step.place)) {
    const { split } = at(nodes, step.place);
    if (!split) break;
    const column = at(columns, split.column);
    const isKnown =
      column.kind === 'number'
        ? !Number.isNaN(at(column.values, 0))
        : split.kind === 'levels' && (split.childOf[at(column.codes, 0)] ?? -1) >= 0;
    const text = branchText(split, step.child);
    conditions.unshift(
      isKnown ? `${split.name} ${text}` : `${split.name} not known here: with most rows, ${text}`,
    );
  }
  return conditions;
}
