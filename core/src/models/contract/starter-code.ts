import type { PlanValue } from '../../data/sentence/parameter.js';
import type { Task } from '../../data/table/roles.js';

/** What a family gets to know of the model that starter code is to fit. */
export interface StarterModel {
  readonly values: Readonly<Record<string, PlanValue>>;
  readonly task: Task;
  /** Name of the target's column. */
  readonly target: string;
  readonly seed: number;
}

/** Code of scikit-learn. */
export interface PythonModel {
  readonly imports: string;
  /** Lines of a function that set `model`; `rows` are those that it is to be fitted to. */
  readonly make: readonly string[];
}

/** Code of R. */
export interface RModel {
  /** A package beside those that come with R; empty for none. */
  readonly needs: string;
  /** Lines that define `fit_model`, of `rows`. */
  readonly fit: readonly string[];
  /** Lines that define `predict_model`, of `model` and `rows`: numbers, or a column of probabilities for each label. */
  readonly predict: readonly string[];
}

/** How a family is fitted in Python and in R, and how rows are prepared for it there. */
export interface StarterCode {
  /** Whether features are brought to one scale. */
  readonly isScaled: boolean;
  /** Whether a category has a column for each level, or for each but the first. */
  readonly dummies: 'all' | 'all but the first';
  /** Whether rows can be weighed. */
  readonly isWeighted: boolean;
  /** Whether the model is one equation, whose coefficients a table can hold. */
  readonly isEquation: boolean;
  readonly python: (model: StarterModel) => PythonModel;
  readonly r: (model: StarterModel) => RModel;
}

/** A text as both languages write it. */
export const quoted = (value: string): string => JSON.stringify(value);

/** An estimator of scikit-learn in one line. */
export const estimator = (module: string, name: string, options = ''): PythonModel => ({
  imports: `from sklearn.${module} import ${name}`,
  make: [`    model = ${name}(${options})`],
});

/** The settings of a model that are numbers, by their keys. */
export const numbersIn =
  ({ values }: StarterModel) =>
  (key: string): number =>
    Number(values[key]);
