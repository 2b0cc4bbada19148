import type { ModelPicture } from '../../questions/contract/model-run.js';
import { coefficientsPicture, partsPicture, treePicture } from '../pictures.js';
import { childOf, childrenOf, type Element } from './xml.js';

const SIGNS: Readonly<Record<string, string>> = {
  equal: '=',
  notEqual: '≠',
  lessThan: '<',
  lessOrEqual: '≤',
  greaterThan: '>',
  greaterOrEqual: '≥',
  isMissing: 'is missing',
  isNotMissing: 'is not missing',
  isIn: 'in',
  isNotIn: 'not in',
};

/** What of a model's element can be drawn: the terms of a single equation, a tree, or what it is made of. */
export function pictureOf(model: Element): ModelPicture {
  const tables = childrenOf(model, 'RegressionTable');
  // Of two classes one table may be empty, or have nothing but zeros.
  const [table, another] = tables.length === 1 ? tables : tables.filter((one) => !isEmpty(one));
  if (model.name === 'RegressionModel' && tables.length <= 2 && table && !another)
    return coefficientsPicture(termsOf(table), table.attributes['targetCategory'] ?? null);
  const root = model.name === 'TreeModel' ? childOf(model, 'Node') : null;
  if (root)
    return treePicture(
      root,
      (node) => ({ when: node === root ? '' : predicateText(node), says: node.attributes['score'] ?? null }),
      (node) => childrenOf(node, 'Node'),
    );
  return partsPicture(countsIn(model));
}

const PREDICTORS = ['NumericPredictor', 'CategoricalPredictor', 'PredictorTerm'];

const isEmpty = (table: Element): boolean =>
  Number(table.attributes['intercept'] ?? 0) === 0 &&
  !table.children.some(
    ({ name, attributes }) => PREDICTORS.includes(name) && Number(attributes['coefficient']) !== 0,
  );

function termsOf(table: Element): { term: string; estimate: number }[] {
  const intercept = Number(table.attributes['intercept'] ?? 0);
  return [
    { term: '(intercept)', estimate: intercept },
    ...table.children.flatMap((child) => {
      const { name = '', exponent = '1', value = '', coefficient = 'NaN' } = child.attributes;
      const estimate = Number(coefficient);
      if (child.name === 'NumericPredictor')
        return [{ term: exponent === '1' ? name : `${name}^${exponent}`, estimate }];
      if (child.name === 'CategoricalPredictor') return [{ term: `${name}=${value}`, estimate }];
      if (child.name !== 'PredictorTerm') return [];
      const factors = childrenOf(child, 'FieldRef').map((ref) => ref.attributes['field'] ?? '');
      return [{ term: factors.join(':'), estimate }];
    }),
  ];
}

/** "hives ≥ 3"; empty for what always holds. */
function predicateText(node: Element): string {
  const found = node.children.find(({ name }) => name === 'True' || name.endsWith('Predicate'));
  return found ? textOf(found) : '';
}

function textOf(predicate: Element): string {
  const { field = '', operator = '', booleanOperator = '', value } = predicate.attributes;
  switch (predicate.name) {
    case 'SimplePredicate':
      return [field, SIGNS[operator] ?? operator, value].filter((part) => part !== undefined).join(' ');
    case 'SimpleSetPredicate':
      return `${field} ${SIGNS[booleanOperator] ?? booleanOperator} ${childOf(predicate, 'Array')?.text.trim() ?? ''}`;
    case 'CompoundPredicate':
      return predicate.children
        .map((child) => (child.name === 'CompoundPredicate' ? `(${textOf(child)})` : textOf(child)))
        .join(` ${booleanOperator} `);
    case 'True':
      return 'otherwise';
    default:
      return predicate.name.toLowerCase();
  }
}

/** Elements that say how large a model is; the others hold what is in them. */
const PARTS =
  /Model$|^(Node|Segment|NeuralNetwork|NeuralLayer|Neuron|BayesInput|VectorInstance|SupportVectorMachine|NumericPredictor|CategoricalPredictor|PCell|KNNInput|row)$/;

/** How often each of these elements occurs in a model. */
function countsIn(model: Element): { name: string; count: number }[] {
  const counts = new Map<string, number>();
  const visit = (element: Element) => {
    for (const child of element.children) {
      if (PARTS.test(child.name)) counts.set(child.name, (counts.get(child.name) ?? 0) + 1);
      visit(child);
    }
  };
  visit(model);
  return Array.from(counts, ([name, count]) => ({ name, count }));
}
