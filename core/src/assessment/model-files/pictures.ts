import type { DrawnNode, ModelPicture } from '../questions/contract/model-run.js';

/** Terms, nodes and kinds of parts that are drawn at most. */
const MOST_TERMS = 1000;
const MOST_NODES = 200;
const MOST_PARTS = 30;
/** Characters of a name in a picture. */
const LONGEST = 120;

/** A name as a picture has it: however long it is in the file, a receipt stays small. */
const short = (text: string): string => (text.length <= LONGEST ? text : `${text.slice(0, LONGEST - 1)}…`);

export const coefficientsPicture = (
  terms: readonly { readonly term: string; readonly estimate: number }[],
  of: string | null = null,
): ModelPicture => ({
  kind: 'coefficients',
  of,
  terms: terms.slice(0, MOST_TERMS).map(({ term, estimate }) => ({ term: short(term), estimate })),
  more: Math.max(0, terms.length - MOST_TERMS),
});

export const partsPicture = (
  parts: readonly { readonly name: string; readonly count: number }[],
): ModelPicture => ({
  kind: 'parts',
  parts: [...parts]
    .sort((a, b) => b.count - a.count)
    .slice(0, MOST_PARTS)
    .map(({ name, count }) => ({ name: short(name), count })),
});

/** A tree without the nodes beyond `MOST_NODES`, level by level. */
export function treePicture<N>(
  root: N,
  draw: (node: N) => { readonly when: string; readonly says: string | null },
  branchesOf: (node: N) => readonly N[],
): ModelPicture {
  type Open = { -readonly [K in keyof DrawnNode]: K extends 'branches' ? Open[] : DrawnNode[K] };
  const open = (node: N): Open => {
    const { when, says } = draw(node);
    return { when: short(when), says: says === null ? null : short(says), branches: [] };
  };
  const drawn = open(root);
  let level: { readonly node: N; readonly at: Open }[] = [{ node: root, at: drawn }];
  let [nodes, more] = [1, 0];
  while (level.length > 0) {
    const next: typeof level = [];
    for (const { node, at } of level)
      for (const branch of branchesOf(node)) {
        if (nodes >= MOST_NODES) {
          more++;
          continue;
        }
        nodes++;
        const below = open(branch);
        at.branches.push(below);
        next.push({ node: branch, at: below });
      }
    level = next;
  }
  return { kind: 'tree', root: drawn, more };
}
