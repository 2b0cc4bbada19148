import { begin } from '../begun.js';
import {
  type Classes,
  type Context,
  likeliestOf,
  normalised,
  NOTHING,
  type Score,
  type Scorer,
} from '../model.js';
import { predicateIn, type Predicate } from '../predicates.js';
import type { Row } from '../row.js';
import type { Scope } from '../scope.js';
import {
  childOf,
  childrenOf,
  type Element,
  needed,
  neededChild,
  numberIn,
  numberOf,
  oneOf,
  refused,
  unsupported,
} from '../xml.js';

const ON_MISSING = [
  'none',
  'nullPrediction',
  'lastPrediction',
  'defaultChild',
  'weightedConfidence',
  'aggregateNodes',
] as const;

interface Node {
  readonly holds: Predicate;
  readonly children: readonly Node[];
  readonly byDefault: Node | null;
  /** Training rows that reached it; 0 where the file does not say. */
  readonly rows: number;
  /** What is predicted for a row that ends here. */
  readonly score: Score;
  /** Training rows by class; null for numbers, and where the file does not say. */
  readonly counts: Float64Array | null;
}

/** <TreeModel>, with every strategy for missing values (PMML 4.4, Trees). */
export function treeModel(element: Element, context: Context): Scorer {
  const { scope, isClassification, classes: all } = begin(element, context);
  const classes = isClassification ? all : null;
  const onMissing = oneOf(element, 'missingValueStrategy', ON_MISSING, 'none');
  const keepsLast =
    oneOf(
      element,
      'noTrueChildStrategy',
      ['returnNullPrediction', 'returnLastPrediction'],
      'returnNullPrediction',
    ) === 'returnLastPrediction';
  const top = neededChild(element, 'Node');
  if (classes) findLabels(top, classes);
  const root = nodeOf(top, scope, classes);

  /** The first child that holds; "unknown" where a missing value comes before it and has a strategy of its own. */
  const childFor = ({ children }: Node, row: Row): Node | 'none' | 'unknown' => {
    for (const child of children) {
      const holds = child.holds(row);
      if (holds === true) return child;
      if (holds === null && onMissing !== 'none') return 'unknown';
    }
    return 'none';
  };
  const descend = (from: Node, row: Row): Score => {
    let node = from;
    while (node.children.length > 0) {
      const child = childFor(node, row);
      if (child === 'none') return keepsLast ? node.score : NOTHING;
      if (child !== 'unknown') {
        node = child;
        continue;
      }
      if (onMissing === 'lastPrediction') return node.score;
      if (onMissing === 'aggregateNodes') return aggregated(node, row, classes);
      if (onMissing === 'weightedConfidence') {
        const possible = node.children.filter(({ holds }) => holds(row) !== false);
        const scores = possible.map((one) => ({ weight: one.rows, score: descend(one, row) }));
        return weighted(scores, classes);
      }
      if (onMissing === 'nullPrediction' || !node.byDefault) return NOTHING;
      node = node.byDefault;
    }
    return node.score;
  };
  return {
    isClassification,
    classes,
    score: (row) => (root.holds(row) === true ? descend(root, row) : NOTHING),
  };
}

/** Labels that a tree predicts, so that shares have a place for each. */
function findLabels(node: Element, classes: Classes): void {
  const { score } = node.attributes;
  if (score !== undefined) classes.place(score);
  for (const one of childrenOf(node, 'ScoreDistribution')) classes.place(needed(one, 'value'));
  for (const child of childrenOf(node, 'Node')) findLabels(child, classes);
}

function nodeOf(element: Element, scope: Scope, classes: Classes | null): Node {
  for (const name of ['Partition', 'Regression', 'DecisionTree']) {
    const embedded = childOf(element, name);
    if (embedded) throw unsupported(embedded);
  }
  const elements = childrenOf(element, 'Node');
  const children = elements.map((child) => nodeOf(child, scope, classes));
  const defaultId = element.attributes['defaultChild'];
  const defaultPlace = elements.findIndex(({ attributes }) => attributes['id'] === defaultId);
  if (defaultId !== undefined && defaultPlace < 0)
    throw refused(
      `<Node> names “${defaultId}” as its default child, which is none of its children.`,
      element.line,
    );
  const counts = classes ? countsOf(element, classes) : null;
  return {
    holds: predicateIn(element, scope),
    children,
    byDefault: defaultId === undefined ? null : (children[defaultPlace] ?? null),
    rows: numberOf(element, 'recordCount', counts ? counts.reduce((a, b) => a + b, 0) : 0),
    score: classes ? classScore(element, counts, classes) : numberScore(element),
    counts,
  };
}

function countsOf(element: Element, { labels }: Classes): Float64Array | null {
  const distribution = childrenOf(element, 'ScoreDistribution');
  if (distribution.length === 0) return null;
  const counts = new Float64Array(labels.length);
  for (const one of distribution) counts[labels.indexOf(needed(one, 'value'))] = numberOf(one, 'recordCount');
  return counts;
}

function numberScore(element: Element): Score {
  const text = element.attributes['score'];
  return text === undefined ? NOTHING : { value: numberIn(text, element, 'its score'), shares: null };
}

function classScore(element: Element, counts: Float64Array | null, classes: Classes): Score {
  const label = element.attributes['score'];
  const distribution = childrenOf(element, 'ScoreDistribution');
  let shares = counts ? normalised(counts) : null;
  if (
    distribution.length > 0 &&
    distribution.every(({ attributes }) => attributes['probability'] !== undefined)
  ) {
    shares = new Float64Array(classes.labels.length);
    for (const one of distribution)
      shares[classes.place(needed(one, 'value'))] = numberOf(one, 'probability');
  }
  if (!shares) {
    if (label === undefined) return NOTHING;
    shares = new Float64Array(classes.labels.length);
    shares[classes.place(label)] = 1;
  }
  return label === undefined ? likeliestOf(shares, classes) : { value: label, shares };
}

/** Predictions of several branches in proportion to their weights. */
function weighted(
  branches: readonly { readonly weight: number; readonly score: Score }[],
  classes: Classes | null,
): Score {
  const said = branches.filter(({ score, weight }) => score.value !== null && weight > 0);
  const total = said.reduce((sum, { weight }) => sum + weight, 0);
  if (total === 0) return NOTHING;
  if (!classes)
    return {
      value: said.reduce((sum, { weight, score }) => sum + (weight / total) * Number(score.value), 0),
      shares: null,
    };
  const shares = new Float64Array(classes.labels.length);
  for (const { weight, score } of said)
    score.shares?.forEach((share, i) => (shares[i] = (shares[i] ?? 0) + (weight / total) * share));
  return likeliestOf(shares, classes);
}

/** The training rows of all leaves that a row may belong to. */
function aggregated(node: Node, row: Row, classes: Classes | null): Score {
  const leaves: Node[] = [];
  const gather = (one: Node) => {
    if (one.children.length === 0) leaves.push(one);
    else {
      const sure = one.children.find(({ holds }) => holds(row) === true);
      for (const child of one.children) if (sure ? child === sure : child.holds(row) !== false) gather(child);
    }
  };
  gather(node);
  return weighted(
    leaves.map((leaf) => ({ weight: leaf.rows, score: leaf.score })),
    classes,
  );
}
