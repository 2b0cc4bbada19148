import { Box, Flex, Text } from '@chakra-ui/react';
import type { CorrelationMatrix } from '@modest-sieve/core/data';
import { Link, useSearchParams } from 'react-router';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { Answer, Empty } from '../../kit/answer/states.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';

const MOST_PAIRS = 14;
const MEASURES = ['Pearson', 'Spearman'] as const;

/** All columns of numbers with one another: a map to see, and the strongest pairs to read. */
export function CorrelationsPage() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const [search, setSearch] = useSearchParams();
  const measure = MEASURES.find((one) => one === search.get('measure')) ?? 'Pearson';
  const numbers = dataSet.profile.filter(({ kind }) => kind === 'number');
  const matrix = useAnswer(
    numbers.length < 2
      ? null
      : address('/data-sets/{dataSet}/correlations', { dataSet: dataSet.address }, { measure }),
  );
  if (numbers.length < 2)
    return (
      <Empty title="Fewer than two columns of numbers">
        Correlations are of numbers. Other columns can be set <Link to="../together">two together</Link>.
      </Empty>
    );
  return (
    <>
      <Box mt={4}>
        <PlanSentence label="Which correlations">
          Correlate{' '}
          <PlanChoice
            label="measure"
            value={measure}
            choices={[
              { value: 'Pearson', text: 'the numbers themselves (Pearson)' },
              { value: 'Spearman', text: 'their ranks (Spearman)' },
            ]}
            onChange={(to) => setSearch({ measure: to }, { replace: true })}
          />
          .
        </PlanSentence>
      </Box>
      <Answer of={matrix} what="the correlations">
        {(data) => (
          <Flex gap={8} wrap="wrap" align="flex-start" mt={3}>
            <Box flex="2" minW={{ base: '100%', md: '480px' }} overflowX="auto">
              <CorrelationMap matrix={data} />
            </Box>
            <Box flex="1" minW="300px">
              <Pairs matrix={data} />
            </Box>
          </Flex>
        )}
      </Answer>
    </>
  );
}

const text = (value: number) => value.toFixed(2).replace('-', '−');

const LEFT = 132;

/**
 * A staircase of squares whose area is the strength: full where both rise together, open where one falls. Columns that
 * go together stand together, and each is named once, at its line.
 */
function CorrelationMap({ matrix: { columns, values } }: { matrix: CorrelationMatrix }) {
  const cell = Math.max(15, Math.min(34, 640 / columns.length));
  const [width, height] = [LEFT + cell * columns.length + 4, cell * columns.length + 4];
  return (
    <Box as="figure" role="img" aria-label={`Correlations of ${columns.length} columns`}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        style={{ maxWidth: width * 1.2, display: 'block' }}
      >
        {columns.map((name, i) => {
          const y = i * cell + cell / 2;
          return (
            <g key={name}>
              <text
                x={LEFT - 8}
                y={y + 4}
                textAnchor="end"
                style={{ fontSize: Math.min(12, cell * 0.75) }}
                fill="var(--chakra-colors-ink)"
              >
                {name.length > 20 ? `${name.slice(0, 19)}…` : name}
                <title>{name}</title>
              </text>
              <line x1={LEFT} x2={LEFT + i * cell} y1={y} y2={y} stroke="var(--chakra-colors-rule)" />
              <line
                x1={LEFT + i * cell + cell / 2}
                x2={LEFT + i * cell + cell / 2}
                y1={y}
                y2={height - 4}
                stroke="var(--chakra-colors-rule)"
              />
              {columns.slice(0, i).map((other, j) => (
                <Square
                  key={other}
                  x={LEFT + j * cell + cell / 2}
                  y={y}
                  cell={cell}
                  value={values[i]?.[j] ?? null}
                  title={`${name} and ${other}`}
                />
              ))}
              <circle cx={LEFT + i * cell + cell / 2} cy={y} r="2" fill="var(--chakra-colors-quiet)" />
            </g>
          );
        })}
      </svg>
      <Text fontSize="13px" color="quiet" mt={2}>
        Full: both rise together. Open: one falls as the other rises. The area is the strength; from a dot, a
        column runs left along its line and down below it.
      </Text>
    </Box>
  );
}

function Square({
  x,
  y,
  cell,
  value,
  title,
}: {
  x: number;
  y: number;
  cell: number;
  value: number | null;
  title: string;
}) {
  const side = (cell - 3) * Math.sqrt(Math.abs(value ?? 0));
  if (value === null || side < 1) return null;
  const isOpen = value < 0;
  return (
    <rect
      x={x - side / 2}
      y={y - side / 2}
      width={side}
      height={side}
      fill={isOpen ? 'var(--chakra-colors-paper)' : 'var(--chakra-colors-accent)'}
      stroke="var(--chakra-colors-accent)"
      strokeWidth={isOpen ? 1.4 : 0}
    >
      <title>{`${title}: ${text(value)}`}</title>
    </rect>
  );
}

/** The strongest pairs, each leading to the two columns together. */
function Pairs({ matrix: { columns, values } }: { matrix: CorrelationMatrix }) {
  const pairs = columns
    .flatMap((b, i) => columns.slice(0, i).map((a, j) => ({ a, b, value: values[i]?.[j] ?? null })))
    .filter((pair): pair is { a: string; b: string; value: number } => pair.value !== null)
    .sort((p, q) => Math.abs(q.value) - Math.abs(p.value))
    .slice(0, MOST_PAIRS);
  return (
    <>
      <Subtitle>Strongest pairs</Subtitle>
      <Ruled label="Strongest pairs" headings={[{ text: 'columns' }, { text: 'r', numeric: true }]}>
        {pairs.map(({ a, b, value }) => (
          <tr key={`${a} ${b}`}>
            <Cell>
              <Link to={`../together?${new URLSearchParams({ x: a, y: b }).toString()}`}>
                {a} and {b}
              </Link>
            </Cell>
            <Cell numeric>{text(value)}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
