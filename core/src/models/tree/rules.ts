import { at, shortNumber } from '../../foundation/numbers.js';
import { isLeaf, type TreeSplit, type TreeState } from './state.js';

/** A way from the root to a leaf. */
export interface TreeRule {
  /** One condition after another, as texts. */
  readonly conditions: readonly string[];
  /** Place of the leaf among the nodes. */
  readonly leaf: number;
}

/** Digits of a threshold: enough to distinguish it from others, few enough to read. */
const THRESHOLD_DIGITS = 6;

/** What holds of the column for the rows of one child of a split: "≤ 6.5", "is clay or loam". */
export function branchText(split: TreeSplit, child: number): string {
  if (split.kind === 'threshold')
    return `${child === 0 ? '≤' : '>'} ${shortNumber(split.threshold, THRESHOLD_DIGITS)}`;
  const levels = split.levels.filter((_, level) => split.childOf[level] === child);
  return `is ${levels.join(' or ')}`;
}

/** Every leaf of a tree as a rule, from left to right. */
export function rulesOf(state: TreeState): TreeRule[] {
  const rules: TreeRule[] = [];
  const visit = (place: number, conditions: readonly string[]) => {
    const node = at(state.nodes, place);
    if (node.split === null || isLeaf(node, state)) {
      rules.push({ conditions, leaf: place });
      return;
    }
    const { split } = node;
    split.children.forEach((child, i) => {
      visit(child, [...conditions, `${split.name} ${branchText(split, i)}`]);
    });
  };
  visit(0, []);
  return rules;
}
