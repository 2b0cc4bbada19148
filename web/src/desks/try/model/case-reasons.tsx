import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import type { Explanation } from '@modest-sieve/core/models';
import { Subtitle } from '../../../kit/layout/title.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';

/** Why the model says what it says of the case: the way through its tree, what each column adds, or what its trees say. */
export function CaseReasons({ of, labels }: { of: Explanation; labels: readonly string[] }) {
  return (
    <>
      <Subtitle>Why it says so</Subtitle>
      {of.kind === 'path' ? <Path of={of} /> : null}
      {of.kind === 'contributions' ? <Contributions of={of} labels={labels} /> : null}
      {of.kind === 'spread' ? <Spread of={of} /> : null}
    </>
  );
}

function Spread({ of }: { of: Extract<Explanation, { kind: 'spread' }> }) {
  const { models, low, lowerQuartile, upperQuartile, high } = of;
  return (
    <Text fontSize="14px" maxW="46em">
      The mean of {counted(models, 'tree')}. Half of the trees say between {figureText(lowerQuartile)} and{' '}
      {figureText(upperQuartile)}, nine in ten between {figureText(low)} and {figureText(high)}. This shows
      how much the trees differ, not how far such cases lie from their mean.
    </Text>
  );
}

function Path({ of: { conditions, rows } }: { of: Extract<Explanation, { kind: 'path' }> }) {
  if (conditions.length === 0)
    return <Text color="quiet">The tree has no split: all rows are answered alike.</Text>;
  return (
    <>
      <Box as="ol" pl={6} fontSize="14px" listStyleType="decimal">
        {conditions.map((condition) => (
          <li key={condition}>{condition}</li>
        ))}
      </Box>
      <Text fontSize="13.5px" color="quiet">
        {counted(Math.round(rows), 'training row')} went the same way.
      </Text>
    </>
  );
}

const WIDTH = 220;

function Contributions({
  of: { of, typical, parts },
  labels,
}: {
  of: Extract<Explanation, { kind: 'contributions' }>;
  labels: readonly string[];
}) {
  const largest = Math.max(...parts.map(({ amount }) => Math.abs(amount)), 0);
  const total = parts.reduce((sum, { amount }) => sum + amount, typical);
  const what =
    of === 'value'
      ? 'predicted value'
      : `log-odds of ${labels[of.label] ?? ''} against ${labels[of.against] ?? ''}`;
  const ordered = [...parts].sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
  return (
    <>
      <Ruled
        label="Why it says so"
        headings={[{ text: 'column' }, { text: `adds to the ${what}` }, { text: '', numeric: true }]}
      >
        <Line name="a typical row" value={figureText(typical)} />
        {ordered.map(({ feature, amount }) => (
          <Line
            key={feature}
            name={feature}
            value={`${amount > 0 ? '+' : ''}${figureText(amount)}`}
            bar={largest > 0 ? amount / largest : 0}
          />
        ))}
        <Line name="together" value={figureText(total)} />
      </Ruled>
      <Text fontSize="13px" color="quiet">
        A typical row has the median of each number and the most frequent level of each category. Each column
        adds what its own value changes from there.
      </Text>
    </>
  );
}

function Line({ name, value, bar = null }: { name: string; value: string; bar?: number | null }) {
  const half = WIDTH / 2;
  return (
    <tr>
      <Cell strong={bar === null}>{name}</Cell>
      <Cell>
        {bar === null ? null : (
          <svg width={WIDTH} height={12} aria-hidden>
            <rect
              x={bar < 0 ? half + bar * half : half}
              y={2}
              width={Math.abs(bar) * half}
              height={8}
              fill="var(--chakra-colors-figure)"
            />
            <line x1={half} x2={half} y1={0} y2={12} stroke="var(--chakra-colors-quiet)" />
          </svg>
        )}
      </Cell>
      <Cell numeric>{value}</Cell>
    </tr>
  );
}
