import { generalRegressionModel } from './elements/general-regression.js';
import { miningModel } from './elements/mining.js';
import { naiveBayesModel } from './elements/naive-bayes.js';
import { nearestNeighborModel } from './elements/nearest.js';
import { neuralNetwork } from './elements/network.js';
import { regressionModel } from './elements/regression.js';
import { treeModel } from './elements/tree.js';
import { supportVectorMachineModel } from './elements/vectors.js';
import { dataFields, inputScope } from './fields.js';
import type { Context, Scorer } from './model.js';
import { Shared } from './scope.js';
import { targetsOf } from './targets.js';
import {
  childOf,
  childrenOf,
  type Element,
  needed,
  neededChild,
  readXml,
  refused,
  unsupported,
} from './xml.js';

const MODELS: Readonly<Record<string, (element: Element, context: Context) => Scorer>> = {
  RegressionModel: regressionModel,
  GeneralRegressionModel: generalRegressionModel,
  TreeModel: treeModel,
  NaiveBayesModel: naiveBayesModel,
  NeuralNetwork: neuralNetwork,
  NearestNeighborModel: nearestNeighborModel,
  SupportVectorMachineModel: supportVectorMachineModel,
  MiningModel: (element, context) => miningModel(element, context, readModel, isModel),
};

const NOT_MODELS = ['Header', 'DataDictionary', 'TransformationDictionary', 'MiningBuildTask'];

const isModel = ({ name }: Element): boolean => name.endsWith('Model') || name === 'NeuralNetwork';

function readModel(element: Element, context: Context): Scorer {
  const read = MODELS[element.name];
  if (!read || element.attributes['isScorable'] === 'false') throw unsupported(element);
  const scorer = read(element, context);
  const adjust = targetsOf(element, scorer.isClassification);
  return { ...scorer, score: (row) => adjust(scorer.score(row)) };
}

/** A PMML file that has been read: what it predicts from, and the model. */
export interface PmmlModel {
  readonly shared: Shared;
  readonly scorer: Scorer;
  /** The element that is the model. */
  readonly element: Element;
}

/**
 * Reads a PMML file of version 4.x. Everything in it that predictions depend on is compiled, so that what is not supported
 * is named with its line before anything is run.
 *
 * @throws SieveError `model-file` with the line
 */
export function readPmml(bytes: Uint8Array): PmmlModel {
  const root = readXml(bytes);
  if (root.name !== 'PMML')
    throw refused(`The file is XML but no PMML: it begins with <${root.name}>.`, root.line);
  const version = root.attributes['version'] ?? '';
  if (!/^4\.[0-4]/.test(version))
    throw refused(
      `PMML of version ${version === '' ? 'unknown' : version} is not supported; 4.0 to 4.4 are.`,
      root.line,
    );
  const fields = dataFields(neededChild(root, 'DataDictionary'));
  const shared = new Shared();
  const inputs = inputScope(shared, fields);
  const dictionary = childOf(root, 'TransformationDictionary');
  for (const own of dictionary ? childrenOf(dictionary, 'DefineFunction') : [])
    shared.functions.set(needed(own, 'name'), own);
  const [element, another] = root.children.filter(({ name }) => !NOT_MODELS.includes(name));
  if (!element) throw refused('The file has no model.', root.line);
  if (another) throw refused('The file has a second model; only one can be handed in.', another.line);
  const scorer = readModel(element, {
    scope: inputs,
    around: { fields, dictionary },
    classes: null,
    targets: fields,
  });
  return { shared, scorer, element };
}
