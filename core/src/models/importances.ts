import type { Importance } from './contract/description.js';
import { isOf } from './contract/state.js';
import type { Fitted } from './fitted.js';
import { treeImportances } from './tree/importance.js';
import { treeForm } from './tree/form.js';

/** How much each feature brought to a model of trees, the largest first; none for other families. */
export const importancesOf = ({ description, state }: Fitted): readonly Importance[] =>
  description.importances ?? (isOf(treeForm, state) ? treeImportances(state) : []);
