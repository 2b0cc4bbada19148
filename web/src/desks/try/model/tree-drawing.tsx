import { Box, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { branchText, type TreeNode, type TreeState } from '@modest-sieve/core/models';
import { useState } from 'react';
import { TextAction } from '../../../kit/form/action.js';
import { figureText } from '../../../kit/table/format.js';
import { small } from '../../../kit/plot/plot-style.js';
import { Subtitle } from '../../../kit/layout/title.js';

const LEAF_WIDTH = 104;
const LEVEL = 104;
const BAR = 88;
const FIRST_DEPTH = 3;

/** A text that is as wide as a leaf. */
const cut = (text: string): string => (text.length > 16 ? `${text.slice(0, 15)}…` : text);

interface Placed {
  readonly place: number;
  readonly node: TreeNode;
  readonly x: number;
  readonly y: number;
  /** The condition under which rows come here. */
  readonly condition: string;
  readonly parent: { readonly x: number; readonly y: number } | null;
  readonly isEnd: boolean;
}

/** Patterns of classes in the bars: a tone each, so that order and tone distinguish them. */
const TONES = ['figure', 'bar', 'training', 'validation', 'heldout', 'holds'];

/** The place of each node: leaves side by side, a node above the middle of its children. */
function layOut(tree: TreeState, depth: number): { placed: Placed[]; width: number; levels: number } {
  const placed: Placed[] = [];
  let column = 0;
  let levels = 0;
  const visit = (place: number, condition: string): number => {
    const node = tree.nodes[place];
    if (!node) return column;
    levels = Math.max(levels, node.depth);
    const { split } = node;
    const isEnd = split === null || node.depth >= Math.min(depth, tree.depth);
    const y = node.depth * LEVEL + 12;
    if (isEnd) {
      const x = (column++ + 0.5) * LEAF_WIDTH;
      placed.push({ place, node, x, y, condition, parent: null, isEnd });
      return x;
    }
    const xs = split.children.map((child, i) => visit(child, branchText(split, i)));
    const x = (Math.min(...xs) + Math.max(...xs)) / 2;
    placed.push({ place, node, x, y, condition, parent: null, isEnd });
    for (const child of split.children) {
      const own = placed.findIndex((one) => one.place === child);
      const found = placed[own];
      if (found) placed[own] = { ...found, parent: { x, y } };
    }
    return x;
  };
  visit(0, '');
  return { placed, width: column * LEAF_WIDTH, levels };
}

/** A tree from its root down: each node with its rows, the share of each class as a bar, and what its rows are split by. */
export function TreeDrawing({ tree, labels }: { tree: TreeState; labels: readonly string[] }) {
  const deepest = tree.nodes.reduce((most, { depth }) => Math.max(most, depth), 0);
  const [depth, setDepth] = useState(Math.min(FIRST_DEPTH, deepest));
  const { placed, width, levels } = layOut(tree, depth);
  return (
    <>
      <Subtitle>The tree</Subtitle>
      <Text fontSize="13.5px" color="quiet">
        Drawn to depth {depth} of {deepest}.{' '}
        {depth < deepest ? (
          <TextAction onClick={() => setDepth(depth + 1)}>One level deeper</TextAction>
        ) : null}{' '}
        {depth > 1 ? <TextAction onClick={() => setDepth(depth - 1)}>One level less</TextAction> : null}
        {labels.length > 0
          ? ` Bars from the left: ${labels.slice(0, TONES.length).join(', ')}.`
          : ' Under each node the mean of its rows.'}
      </Text>
      <Box overflowX="auto" tabIndex={0} role="region" aria-label="Drawing of the tree">
        <svg
          viewBox={`0 0 ${Math.max(width, 240)} ${(levels + 1) * LEVEL}`}
          role="img"
          aria-label={`Tree of ${tree.nodes.length} nodes`}
          style={{
            display: 'block',
            width: '100%',
            minWidth: 0.85 * width,
            maxWidth: Math.max(width, 240),
          }}
        >
          {placed.map(({ place, x, y, parent }) =>
            parent ? (
              <path
                key={place}
                d={`M${parent.x} ${parent.y + 48}V${y - 28}H${x}V${y - 20}`}
                fill="none"
                stroke="var(--chakra-colors-quiet)"
              />
            ) : null,
          )}
          {placed.map(({ place, node, x, y, condition, isEnd }) => (
            <g key={place}>
              {condition === '' ? null : (
                <text x={x} y={y - 6} textAnchor="middle" style={small}>
                  <title>{condition}</title>
                  {cut(condition)}
                </text>
              )}
              <NodeBar node={node} labels={labels} x={x - BAR / 2} y={y} />
              <text
                x={x}
                y={y + 28}
                textAnchor="middle"
                style={{ fontSize: 12.5, fontWeight: isEnd ? 700 : 400, fill: 'var(--chakra-colors-ink)' }}
              >
                {labels.length > 0
                  ? `${count(node.rows)} rows`
                  : `${figureText(node.values[0])} · ${count(node.rows)}`}
              </text>
              {node.split === null ? null : (
                <text x={x} y={y + 43} textAnchor="middle" style={small}>
                  <title>{node.split.name}</title>
                  {isEnd ? 'goes on' : cut(`by ${node.split.name}`)}
                </text>
              )}
            </g>
          ))}
        </svg>
      </Box>
    </>
  );
}

function NodeBar({
  node,
  labels,
  x,
  y,
}: {
  node: TreeNode;
  labels: readonly string[];
  x: number;
  y: number;
}) {
  if (labels.length === 0)
    return <rect x={x} y={y} width={BAR} height={12} fill="var(--chakra-colors-bar)" />;
  const total = node.values.reduce((a, b) => a + b, 0) || 1;
  const ends = node.values.map((_, i) => node.values.slice(0, i).reduce((a, b) => a + b, 0) / total);
  return (
    <g>
      <title>{labels.map((label, i) => `${label} ${String(node.values[i] ?? 0)}`).join(', ')}</title>
      {node.values.map((value, i) => (
        <rect
          key={labels[i]}
          x={x + (ends[i] ?? 0) * BAR}
          y={y}
          width={(value / total) * BAR}
          height={12}
          fill={`var(--chakra-colors-${TONES[i % TONES.length] ?? 'bar'})`}
        />
      ))}
      <rect
        x={x}
        y={y}
        width={BAR}
        height={12}
        fill="none"
        stroke="var(--chakra-colors-ink)"
        strokeWidth="0.7"
      />
    </g>
  );
}
