import { BASELINES, MODEL_FAMILIES } from '../../models/registry.js';
import type { ModelFamily } from '../../models/contract/family.js';

/**
 * Families with which work from other programs has been compared, so that it is known how far honest work may be off
 * (docs/verdicts.md). Only these may be what a student's own models are compared with.
 */
const COMPARED = ['linear', 'logistic', 'ridge', 'lasso', 'elastic-net', 'nearest', 'naive-bayes', 'tree'];

export const COMPARED_FAMILIES: readonly ModelFamily[] = MODEL_FAMILIES.filter(({ key }) =>
  COMPARED.includes(key),
);

/** The same with the baselines. */
export const COMPARED_OR_BASELINE: readonly ModelFamily[] = MODEL_FAMILIES.filter(
  ({ key }) => COMPARED.includes(key) || BASELINES.includes(key),
);
