import type { Explanation } from './contract/explanation.js';
import type { Sample } from './contract/sample.js';
import type { ModelSize, ModelState, Predicted, StateForm } from './contract/state.js';
import type { Recipe } from './prepared/recipe.js';
import { STATE_FORMS } from './registry.js';

function formOf({ form }: ModelState): StateForm {
  const found = STATE_FORMS.find(({ name }) => name === form);
  if (!found) throw new RangeError(`no form of models is called ${form}`);
  return found;
}

/** What a model predicts. Classes are in the order of the target's labels. */
export const predictState = (state: ModelState, sample: Sample): Predicted =>
  formOf(state).predict(state, sample);

/** Why a model says what it says of a row; null where its form has no account of it. */
export const explainState = (state: ModelState, one: Sample, typical: Sample): Explanation | null =>
  formOf(state).explain?.(state, one, typical) ?? null;

/** Coefficients that are not 0, leaves of a tree, else features that are used; null for a baseline. */
export const sizeOf = ({
  state,
  recipe,
}: {
  readonly state: ModelState;
  readonly recipe: Recipe;
}): ModelSize | null => formOf(state).sizeOf(state, recipe.features.length);
