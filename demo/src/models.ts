import { seededRandom } from '@modest-sieve/core/foundation';
import { readCsv, type PlanValue } from '@modest-sieve/core/data';
import { fitModel, modelOf, targetOf } from '@modest-sieve/core/models';
import { writePmml } from '@modest-sieve/core/model-files';

// Models that three invented students might hand in, fitted to the training rows of the pack.

const NOT_FEATURES = ['colony', 'apiary', 'survived', 'inspected'];

/** Rows drawn with replacement. */
function drawn(n: number, seed: number): Int32Array {
  const random = seededRandom(seed);
  return Int32Array.from({ length: n }, () => random.below(n));
}

/** A tree of the training rows as PMML. */
function treeOf(
  training: Uint8Array,
  values: Readonly<Record<string, PlanValue>>,
  draw: number | null,
): string {
  const { table } = readCsv(training, { file: 'training.csv' });
  const roles = { target: 'survived', task: 'binary', positive: 'yes' } as const;
  const fitted = fitModel({
    table,
    model: modelOf('tree', values),
    task: roles.task,
    targetName: roles.target,
    group: null,
    target: targetOf(table, roles),
    features: table.columns.map(({ name }) => name).filter((name) => !NOT_FEATURES.includes(name)),
    rows:
      draw === null
        ? Int32Array.from({ length: table.rowCount }, (_, row) => row)
        : drawn(table.rowCount, draw),
    weights: null,
    seed: 0,
  });
  return writePmml(fitted, new Set());
}

/** A tree of some depth, with at least so many rows in a leaf. */
export const treeAs =
  (depth: number, rowsPerLeaf: number) =>
  (training: Uint8Array): string =>
    treeOf(training, { depth, rows_per_leaf: rowsPerLeaf }, null);

/** A small tree, which learned what the colonies have in common. */
export const smallTree = treeAs(3, 15);

const TREES = 3;

/** Trees that each know a draw of the rows by heart, and are averaged. */
export function deepForest(training: Uint8Array): string {
  const trees = Array.from({ length: TREES }, (_, draw) =>
    treeOf(training, { depth: 30, rows_per_leaf: 1, rows_per_split: 2 }, draw),
  );
  const [first = ''] = trees;
  const head = first.slice(0, first.indexOf('<TreeModel'));
  const schema = /<MiningSchema>[\s\S]*?<\/MiningSchema>/.exec(first)?.[0] ?? '';
  const segments = trees.map((tree) => {
    const model = tree.slice(tree.indexOf('<TreeModel'), tree.indexOf('</PMML>'));
    return `<Segment><True/>${model}</Segment>`;
  });
  return `${head}<MiningModel functionName="classification">${schema}<Segmentation multipleModelMethod="average">${segments.join('')}</Segmentation></MiningModel></PMML>`;
}

/** A tree that asks for the frames of the following spring, which nobody has when the colonies are visited. */
export const fromTheFuture = (training: Uint8Array): string =>
  smallTree(training)
    .replaceAll('"stores_kg"', '"spring_frames"')
    .replaceAll('"frames_of_bees"', '"spring_frames"');
