import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import { importancesOf } from '../../../models/importances.js';
import { isOf } from '../../../models/contract/state.js';
import { treeForm } from '../../../models/tree/form.js';
import { leafCount, isLeaf, type TreeState } from '../../../models/tree/state.js';
import { askedOf, figures, generator, type AskedNames } from '../generator.js';
import { checkFitted, FEATURES, fitTo, givenModel, modelParameter } from './fitted-model.js';

/** The largest depth of a leaf. */
function depthOf(state: TreeState, place = 0): number {
  const node = at(state.nodes, place);
  if (isLeaf(node, state)) return node.depth;
  return Math.max(...(node.split?.children ?? []).map((child) => depthOf(state, child)));
}

export const treeShape = generator({
  key: 'tree-shape',
  title: 'a decision tree',
  about:
    'The column at the root of a decision tree that is fitted to the training rows, its threshold, the leaves and the depth, and the column of the largest impurity importance. A tree whose two best columns at the root are nearly equal may differ between programs: look at it before you ask.',
  text: 'Fit {model} of **{target}** on {features} to the training rows. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('tree depth=3'),
    features: FEATURES,
    asked: figures(
      [
        'threshold at the root',
        'leaves',
        'depth of the tree',
        'column at the root',
        'column of the largest importance',
      ],
      ['column at the root', 'leaves'],
    ),
  },
  sentence: () => 'Fit {model} on {features} to the training rows, and ask for {asked}.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    if (!values.model.trim().startsWith('tree'))
      throw new SieveError('plan-value', 'A tree is needed, such as “tree depth=3”.', { field: 'model' });
  },
  compute({ model, features, asked }, { table, roles }) {
    const { fitted, request } = fitTo(table, roles, { model, features });
    const { state } = fitted;
    if (!isOf(treeForm, state))
      throw new SieveError('no-figure', 'This model is no single tree.', { field: 'model' });
    const root = at(state.nodes, 0);
    const split = isLeaf(root, state) ? null : root.split;
    if (!split) throw new SieveError('no-figure', 'The tree has no split.', { field: 'model' });
    const one = (name: string, key: string, right: string): AskedNames[] =>
      asked.some((wanted) => wanted === name)
        ? [{ key, name, convention: null, choices: request.features, right: [right], several: false }]
        : [];
    return {
      given: givenModel(table, request, features),
      table: null,
      asked: [
        ...one('column at the root', 'column_at_the_root', split.name),
        ...askedOf(
          {
            'threshold at the root':
              split.kind === 'threshold'
                ? { value: split.threshold }
                : { value: null, reason: 'the root is split by classes' },
            leaves: leafCount(state),
            'depth of the tree': depthOf(state),
          },
          asked,
        ),
        ...one(
          'column of the largest importance',
          'column_of_the_largest_importance',
          importancesOf(fitted)[0]?.feature ?? '',
        ),
      ],
    };
  },
});
