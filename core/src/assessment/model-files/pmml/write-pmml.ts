import { boostingForm } from '../../../models/boosting/boosting-form.js';
import { combinedForm } from '../../../models/combined/combined-form.js';
import { forestForm } from '../../../models/forest/forest-form.js';
import { constantForm } from '../../../models/baseline/constant-form.js';
import { bayesForm } from '../../../models/bayes/predict.js';
import { isOf } from '../../../models/contract/state.js';
import { linearForm, logitsForm } from '../../../models/linear/forms.js';
import { neighboursForm } from '../../../models/nearest/neighbours-form.js';
import { networkForm } from '../../../models/network/network-form.js';
import { machineForm } from '../../../models/vector-machine/machine-form.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { SieveError } from '../../../foundation/errors.js';
import type { BayesPart, BayesState } from '../../../models/bayes/state.js';
import type { Fitted } from '../../../models/fitted.js';
import type { FeatureRecipe } from '../../../models/prepared/recipe.js';
import { treeForm } from '../../../models/tree/form.js';
import { isLeaf, type TreeNode, type TreeState } from '../../../models/tree/state.js';
import { at } from '../../../foundation/numbers.js';
import { tag } from './tag.js';
import { boosted, combined, forest, isIn } from './write-many.js';
import { vectorMachine } from './write-machine.js';
import { neuralNetwork } from './write-network.js';
import { nearestNeighbours } from './write-neighbours.js';

const refused = (what: string) => new SieveError('model-file', `${what} cannot be written as PMML.`);

/**
 * A fitted model as PMML 4.4.
 *
 * @param dates names of the features that are dates, which the model counts in days
 * @throws SieveError `model-file` for a family or a feature that PMML has no element for
 */
export function writePmml(fitted: Fitted, dates: ReadonlySet<string>): string {
  const { features } = fitted.recipe;
  for (const { name, kind } of features) {
    if (kind === 'words') throw refused(`${name} is text: a model of its words`);
    if (dates.has(name)) throw refused(`${name} holds dates: a model of days`);
  }
  const target =
    fitted.labels.length > 0
      ? tag(
          'DataField',
          { name: fitted.target, optype: 'categorical', dataType: 'string' },
          fitted.labels.map((value) => tag('Value', { value })),
        )
      : tag('DataField', { name: fitted.target, optype: 'continuous', dataType: 'double' });
  const body = [
    tag('Header', {}, [tag('Application', { name: 'Modest Sieve' })]),
    tag('DataDictionary', { numberOfFields: features.length + 1 }, [...features.map(dataField), target]),
    modelOf(fitted),
  ];
  return `<?xml version="1.0" encoding="UTF-8"?>\n${tag('PMML', { version: '4.4', xmlns: 'http://www.dmg.org/PMML-4_4' }, body)}\n`;
}

const dataField = (feature: FeatureRecipe): string =>
  feature.kind === 'category'
    ? tag(
        'DataField',
        { name: feature.name, optype: 'categorical', dataType: 'string' },
        feature.levels.map((value) => tag('Value', { value })),
      )
    : tag('DataField', { name: feature.name, optype: 'continuous', dataType: 'double' });

function modelOf(fitted: Fitted): string {
  const { state, labels } = fitted;
  if (isOf(constantForm, state))
    return regression(
      fitted,
      'simplemax',
      state.values.map((intercept) => ({ intercept, slopes: [] })),
    );
  if (isOf(linearForm, state)) {
    if (labels.length > 0) throw refused('A line for classes');
    return regression(fitted, 'none', [state]);
  }
  if (isOf(logitsForm, state))
    return regression(
      fitted,
      'softmax',
      state.intercepts.map((intercept, label) => ({ intercept, slopes: at(state.slopes, label) })),
    );
  if (isOf(treeForm, state)) return tree(fitted, state);
  if (isOf(bayesForm, state)) return naiveBayes(fitted, state);
  if (isOf(neighboursForm, state)) {
    if (state.weights) throw refused('A model of nearest neighbours with row weights');
    return nearestNeighbours(fitted, state, schema(fitted, true));
  }
  if (isOf(forestForm, state)) return forest(fitted, state, schema(fitted, false));
  if (isOf(networkForm, state)) return neuralNetwork(fitted, state, schema(fitted, true));
  if (isOf(machineForm, state))
    return vectorMachine(fitted, state, { filled: schema(fitted, true), plain: schema(fitted, false) });
  if (isOf(boostingForm, state)) return boosted(fitted, state, schema(fitted, false));
  if (isOf(combinedForm, state))
    return combined(fitted, state, schema(fitted, false), (member) => modelOf({ ...fitted, state: member }));
  throw refused(`A model of ${modelFamilyOf(fitted.model).title}`);
}

/** The schema of a model. Where it fills missing cells, they are the median or the most frequent level. */
function schema({ recipe, target }: Fitted, fills: boolean): string {
  const fields = recipe.features.map((feature) => {
    const fill =
      feature.kind === 'category'
        ? feature.levels[feature.fill]
        : feature.kind === 'number'
          ? feature.fill
          : undefined;
    const hasRest = feature.kind === 'category' && feature.rest;
    return tag('MiningField', {
      name: feature.name,
      missingValueReplacement: fills ? fill : undefined,
      // A level that no training row had: the level for all others, or a missing cell.
      invalidValueTreatment: hasRest ? 'asValue' : 'asMissing',
      invalidValueReplacement: hasRest ? feature.levels.at(-1) : undefined,
    });
  });
  return tag('MiningSchema', {}, [...fields, tag('MiningField', { name: target, usageType: 'target' })]);
}

interface Sum {
  readonly intercept: number;
  /** In the order of the terms: a number, or the levels of a category after the first. */
  readonly slopes: readonly number[];
}

function regression(fitted: Fitted, method: string, sums: readonly Sum[]): string {
  const { labels, recipe } = fitted;
  const tables = sums.map(({ intercept, slopes }, label) => {
    let term = 0;
    const predictors = recipe.features.flatMap((feature): string[] => {
      const slope = () => slopes[term++] ?? 0;
      if (feature.kind === 'number')
        return [tag('NumericPredictor', { name: feature.name, coefficient: slope() })];
      if (feature.kind === 'words') return [];
      return feature.levels
        .slice(1)
        .map((value) => tag('CategoricalPredictor', { name: feature.name, value, coefficient: slope() }));
    });
    return tag('RegressionTable', { intercept, targetCategory: labels[label] }, predictors);
  });
  const isClassification = labels.length > 0;
  return tag(
    'RegressionModel',
    {
      functionName: isClassification ? 'classification' : 'regression',
      normalizationMethod: isClassification ? method : 'none',
    },
    [schema(fitted, true), ...tables],
  );
}

/**
 * A tree. Where rows with a missing value follow most rows, the child of these comes last and takes all that is left;
 * otherwise they stop at the node.
 */
function tree(fitted: Fitted, state: TreeState): string {
  const { labels } = fitted;
  const stops = state.missing === 'stop';
  const write = (place: number, predicate: string): string => {
    const node = at(state.nodes, place);
    return tag('Node', { id: place, score: scoreOf(node, fitted), recordCount: node.rows }, [
      predicate,
      ...labels.map((value, label) =>
        tag('ScoreDistribution', { value, recordCount: node.values[label] ?? 0 }),
      ),
      ...childrenOf(node, state, stops, write),
    ]);
  };
  return tag(
    'TreeModel',
    {
      functionName: labels.length > 0 ? 'classification' : 'regression',
      missingValueStrategy: stops ? 'lastPrediction' : 'none',
      noTrueChildStrategy: 'returnLastPrediction',
      splitCharacteristic: 'multiSplit',
    },
    [schema(fitted, false), write(0, tag('True', {}))],
  );
}

/** A number, or the class that the program itself says: of two the positive one from a half on. */
function scoreOf({ values, rows }: TreeNode, { labels, positive }: Fitted): string | number {
  if (labels.length === 0) return at(values, 0);
  if (positive !== null && at(values, positive) / rows >= 0.5) return at(labels, positive);
  return at(labels, values.indexOf(Math.max(...values)));
}

function childrenOf(
  node: TreeNode,
  state: TreeState,
  stops: boolean,
  write: (place: number, predicate: string) => string,
): string[] {
  const { split } = node;
  if (!split || isLeaf(node, state)) return [];
  const predicateFor = (position: number): string => {
    if (split.kind === 'threshold')
      return tag('SimplePredicate', {
        field: split.name,
        operator: position === 0 ? 'lessOrEqual' : 'greaterThan',
        value: split.threshold,
      });
    const levels = split.levels.filter((_, level) => split.childOf[level] === position);
    return isIn(split.name, levels);
  };
  const children = split.children.map((place, position) => ({ place, predicate: predicateFor(position) }));
  if (stops) return children.map(({ place, predicate }) => write(place, predicate));
  const others = children.filter(({ place }) => place !== split.most);
  return [
    ...others.map(({ place, predicate }) => write(place, predicate)),
    write(split.most, tag('True', {})),
  ];
}

function naiveBayes(fitted: Fitted, { logPriors, parts }: BayesState): string {
  const { labels } = fitted;
  const counts = (values: readonly number[]) =>
    tag(
      'TargetValueCounts',
      {},
      labels.map((value, label) => tag('TargetValueCount', { value, count: at(values, label) })),
    );
  const input = (part: BayesPart): string => {
    if (part.kind === 'levels') {
      const feature = at(fitted.recipe.features, part.place);
      const levels = feature.kind === 'category' ? feature.levels : [];
      const pairs = levels.map((value, level) =>
        tag('PairCounts', { value }, [counts(part.logs.map((logs) => Math.exp(at(logs, level))))]),
      );
      return tag('BayesInput', { fieldName: feature.name }, pairs);
    }
    if (part.kind !== 'normal' || part.of !== 'feature')
      throw refused(`Naive Bayes of the kind ${String(fitted.model.values['kind'])}, with these features,`);
    const stats = labels.map((value, label) =>
      tag('TargetValueStat', { value }, [
        tag('GaussianDistribution', { mean: at(part.means, label), variance: at(part.variances, label) }),
      ]),
    );
    return tag('BayesInput', { fieldName: at(fitted.recipe.features, part.place).name }, [
      tag('TargetValueStats', {}, stats),
    ]);
  };
  return tag('NaiveBayesModel', { functionName: 'classification', threshold: 0 }, [
    schema(fitted, false),
    tag('BayesInputs', {}, parts.map(input)),
    tag('BayesOutput', { fieldName: fitted.target }, [
      counts(logPriors.map((log) => (log === null ? 0 : Math.exp(log)))),
    ]),
  ]);
}
