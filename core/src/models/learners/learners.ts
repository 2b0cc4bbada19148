import { classShares, mean, median, mostFrequent } from '../baseline/baselines.js';
import { naiveBayes } from '../bayes/naive-bayes.js';
import { boosting } from '../boosting/boosting.js';
import type { ModelFamily } from '../contract/family.js';
import { randomForest } from '../forest/forest.js';
import { linearRegression } from '../linear/linear.js';
import { logisticRegression } from '../linear/logistic.js';
import { nearest } from '../nearest/nearest.js';
import { network } from '../network/network.js';
import { elasticNet, lasso, ridge } from '../penalised/penalised.js';
import { decisionTree } from '../tree/tree.js';
import { vectorMachine } from '../vector-machine/vector-machine.js';

/** Families that learn nothing from features: what every other model must beat. */
export const BASELINE_KINDS: readonly ModelFamily[] = [mostFrequent, classShares, mean, median];

/** Every family that learns by itself, not from models of other families. */
export const LEARNERS: readonly ModelFamily[] = [
  ...BASELINE_KINDS,
  linearRegression,
  logisticRegression,
  ridge,
  lasso,
  elasticNet,
  nearest,
  naiveBayes,
  decisionTree,
  randomForest,
  boosting,
  vectorMachine,
  network,
];
