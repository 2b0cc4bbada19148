import { Box, Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { FoldConsequences } from '@modest-sieve/core/audit';
import { ShareInterval } from '../../kit/plot/distribution.js';
import { percent, valueText } from '../../kit/table/format.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';
import { GroupedNote } from './evidence.js';

const WIDTH = 800;
const LINE = 22;
const LEFT = 52;
const BAR = 12;

/** One line for each fold: over time where it learns and what it tests, otherwise what it tests of each group or class. */
export function FoldMap({ folds }: { folds: FoldConsequences }) {
  return folds.time && folds.folds.every(({ span }) => span) ? (
    <TimeLines folds={folds} time={folds.time} />
  ) : (
    <Squares folds={folds} />
  );
}

const foldName = (fold: number) => `fold ${fold + 1}`;

/** A square for each group (or class) that a fold tests, its area the number of rows. */
function Squares({ folds }: { folds: FoldConsequences }) {
  const stacks = [...new Set(folds.map.map(({ stack }) => stack))].sort(
    (a, b) => order(folds, a) - order(folds, b),
  );
  const step = Math.min(60, (WIDTH - LEFT) / Math.max(1, stacks.length));
  const largest = Math.max(1, ...folds.map.map(({ rows }) => rows));
  const side = Math.min(step, LINE) - 3;
  const height = folds.folds.length * LINE + 26;
  const room = Math.max(3, Math.floor(step / 5.6));
  const tilted = stacks.some((stack) => stack.length > room);
  const foot = tilted ? 64 : 0;
  return (
    <Box as="figure" role="img" aria-label={`Rows tested, by fold and by ${stacks.length} values`} mb={3}>
      <svg
        viewBox={`0 0 ${WIDTH} ${height + foot}`}
        width="100%"
        style={{ display: 'block', maxWidth: WIDTH }}
      >
        {folds.folds.map((_, fold) => (
          <g key={fold}>
            <line
              x1={LEFT}
              x2={LEFT + step * stacks.length}
              y1={fold * LINE + LINE / 2}
              y2={fold * LINE + LINE / 2}
              stroke="var(--chakra-colors-rule)"
            />
            <FoldName fold={fold} />
          </g>
        ))}
        {folds.map.map(({ fold, stack, rows }) => {
          const size = Math.max(2, side * Math.sqrt(rows / largest));
          const x = LEFT + step * (stacks.indexOf(stack) + 0.5);
          return (
            <rect
              key={`${fold} ${stack}`}
              x={x - size / 2}
              y={fold * LINE + LINE / 2 - size / 2}
              width={size}
              height={size}
              fill="var(--chakra-colors-accent)"
            >
              <title>{`${foldName(fold)} tests ${count(rows)} rows of ${stack}`}</title>
            </rect>
          );
        })}
        {stacks.map((stack, i) => (
          <text
            key={stack}
            x={LEFT + step * (i + 0.5)}
            y={height - 12}
            textAnchor={tilted ? 'end' : 'middle'}
            transform={tilted ? `rotate(-60 ${LEFT + step * (i + 0.5)} ${height - 12})` : undefined}
            style={{ fontSize: 10.5 }}
            fill="var(--chakra-colors-quiet)"
          >
            {stack.length > 14 ? `${stack.slice(0, 13)}…` : stack}
          </text>
        ))}
      </svg>
    </Box>
  );
}

/** Groups in the order of the fold that tests them first, so that whole groups make a staircase. */
const order = (folds: FoldConsequences, stack: string): number =>
  folds.map.find((cell) => cell.stack === stack)?.fold ?? 0;

function FoldName({ fold }: { fold: number }) {
  return (
    <text x={0} y={fold * LINE + LINE / 2 + 4} style={{ fontSize: 11.5 }} fill="var(--chakra-colors-quiet)">
      {foldName(fold)}
    </text>
  );
}

/** A line of time for each fold: an open bar where it learns, a full one where it tests. */
function TimeLines({
  folds,
  time,
}: {
  folds: FoldConsequences;
  time: NonNullable<FoldConsequences['time']>;
}) {
  const spans = folds.folds.flatMap(({ span }) => (span ? [span] : []));
  const from = Math.min(...spans.map(({ training }) => training[0]));
  const to = Math.max(...spans.map(({ tested }) => tested[1]));
  const x = (value: number) => LEFT + ((value - from) / (to - from || 1)) * (WIDTH - LEFT - 8);
  const height = folds.folds.length * LINE + 26;
  const text = (value: number) =>
    time.isDate ? new Date(value).toISOString().slice(0, 10) : valueText(value);
  return (
    <Box as="figure" role="img" aria-label={`Training and testing over ${time.column}, by fold`} mb={3}>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} width="100%" style={{ display: 'block', maxWidth: WIDTH }}>
        {spans.map(({ training, tested }, fold) => {
          const y = fold * LINE + (LINE - BAR) / 2;
          return (
            <g key={fold}>
              <FoldName fold={fold} />
              <rect
                x={x(training[0])}
                y={y}
                width={Math.max(1, x(training[1]) - x(training[0]))}
                height={BAR}
                fill="none"
                stroke="var(--chakra-colors-training)"
              />
              <rect
                x={x(tested[0])}
                y={y}
                width={Math.max(2, x(tested[1]) - x(tested[0]))}
                height={BAR}
                fill="var(--chakra-colors-accent)"
              >
                <title>{`${foldName(fold)} tests ${text(tested[0])} to ${text(tested[1])}`}</title>
              </rect>
            </g>
          );
        })}
        <text x={LEFT} y={height - 8} style={{ fontSize: 11.5 }} fill="var(--chakra-colors-quiet)">
          {text(from)}
        </text>
        <text
          x={WIDTH - 8}
          y={height - 8}
          textAnchor="end"
          style={{ fontSize: 11.5 }}
          fill="var(--chakra-colors-quiet)"
        >
          {text(to)}
        </text>
      </svg>
      <Text fontSize="13px" color="quiet">
        By {time.column}: an open bar over the rows that a fold trains on, a full one over those that it
        tests.
      </Text>
    </Box>
  );
}

/** Sizes of each fold, and the target among the rows that it tests. */
export function FoldTable({ folds }: { folds: FoldConsequences }) {
  const { dataSet } = useDataSet();
  const { roles } = dataSet;
  const label =
    roles?.positive ?? folds.folds[0]?.classes.toSorted((a, b) => b.rows - a.rows)[0]?.label ?? '';
  const isNumber = roles?.task === 'regression';
  const shares = folds.folds.map(({ classes }) => classes.find((one) => one.label === label));
  const from = Math.min(...shares.map((share) => share?.low ?? share?.share ?? 0));
  const to = Math.max(...shares.map((share) => share?.high ?? share?.share ?? 1));
  const what = isNumber ? `mean of ${roles.target}` : `${roles?.target ?? ''} is ${label}`;
  return (
    <>
      <Subtitle>Fold by fold</Subtitle>
      <Ruled
        label="Fold by fold"
        headings={[
          { text: 'fold' },
          { text: 'trained on', numeric: true },
          { text: 'tested', numeric: true },
          { text: `${what}, among the tested` },
        ]}
      >
        {folds.folds.map(({ training, tested, targetMean }, fold) => {
          const share = shares[fold];
          return (
            <tr key={fold}>
              <Cell>{fold + 1}</Cell>
              <Cell numeric>{count(training)}</Cell>
              <Cell numeric>{count(tested)}</Cell>
              <Cell>
                {isNumber ? (
                  valueText(targetMean)
                ) : share ? (
                  <Flex align="center" gap={2}>
                    <ShareInterval {...share} from={from} to={to} colour="accent" />
                    <Text whiteSpace="nowrap">{percent(share.share)}</Text>
                  </Flex>
                ) : null}
              </Cell>
            </tr>
          );
        })}
      </Ruled>
      {isNumber ? null : <GroupedNote />}
    </>
  );
}
