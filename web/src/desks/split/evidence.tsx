import { Box, Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { ShareInterval } from '../../kit/plot/distribution.js';
import { valueText, percent } from '../../kit/table/format.js';
import { PARTS } from '../../kit/plot/parts.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';

const MOST_FEATURES = 6;

/** Class shares by part with their intervals; for two classes those of the positive one. */
export function ShareTable({ split }: { split: SplitConsequences }) {
  const { dataSet } = useDataSet();
  const { roles } = dataSet;
  const shown = roles?.task === 'binary' && roles.positive !== null ? [roles.positive] : split.labels;
  const lines = shown.flatMap((label) =>
    split.parts.map((part) => ({ part, label, figures: part.classes.find((c) => c.label === label) })),
  );
  const from = Math.min(...lines.map((line) => line.figures?.low ?? line.figures?.share ?? 0));
  const to = Math.max(...lines.map((line) => line.figures?.high ?? line.figures?.share ?? 1));
  return (
    <>
      <Subtitle>{roles?.target}, by part</Subtitle>
      <Ruled
        label="Class shares by part"
        headings={[
          { text: 'part' },
          ...(shown.length > 1 ? [{ text: 'class' }] : []),
          { text: shown.length > 1 ? 'rows' : (shown[0] ?? ''), numeric: true },
          { text: 'share, 95 % interval' },
        ]}
      >
        {lines.map(({ part, label, figures }) => (
          <tr key={`${part.name} ${label}`}>
            <Cell nowrap>
              <Text as="b" color={PARTS[part.name].ink}>
                {PARTS[part.name].letter}
              </Text>{' '}
              {PARTS[part.name].word}
            </Cell>
            {shown.length > 1 ? <Cell>{label}</Cell> : null}
            <Cell numeric>
              {count(figures?.rows ?? 0)}{' '}
              <Box as="span" color="quiet">
                of {count(part.rows)}
              </Box>
            </Cell>
            <Cell>
              {figures ? (
                <Flex align="center" gap={2}>
                  <ShareInterval {...figures} from={from} to={to} colour={PARTS[part.name].colour} />
                  <Text whiteSpace="nowrap">{percent(figures.share)}</Text>
                </Flex>
              ) : null}
            </Cell>
          </tr>
        ))}
      </Ruled>
      <GroupedNote />
    </>
  );
}

/** How intervals are found where rows come in groups. */
export function GroupedNote() {
  const { dataSet } = useDataSet();
  const group = dataSet.roles?.group;
  return group ? (
    <Text fontSize="13px" color="quiet" mt={1}>
      Intervals are over whole values of {group}: approximate below 30 of them, none below ten.
    </Text>
  ) : null;
}

/** The features whose values differ most between training and held-out rows. */
export function DriftTable({ split }: { split: SplitConsequences }) {
  const { dataSet } = useDataSet();
  const times = new Set(
    dataSet.profile.filter((column) => column.kind === 'time').map((column) => column.name),
  );
  const mean = (column: string, value: number | null) =>
    value === null ? '' : times.has(column) ? new Date(value).toISOString().slice(0, 10) : valueText(value);
  const largest = Math.max(0.25, ...split.drift.map((drift) => drift.value));
  return (
    <>
      <Subtitle>Features that differ most</Subtitle>
      <Ruled
        label="Features that differ most"
        headings={[
          { text: 'feature' },
          { text: 'T mean', numeric: true },
          { text: 'H mean', numeric: true },
          { text: 'difference' },
        ]}
      >
        {split.drift.slice(0, MOST_FEATURES).map((drift) => (
          <tr key={drift.column}>
            <Cell>{drift.column}</Cell>
            <Cell numeric>{mean(drift.column, drift.training)}</Cell>
            <Cell numeric>{mean(drift.column, drift.heldout)}</Cell>
            <Cell>
              <Flex align="center" gap={2} title={drift.measure}>
                <Box
                  h="7px"
                  w={`${(44 * drift.value) / largest}px`}
                  bg={drift.value >= 0.25 ? 'unsure' : 'bar'}
                />
                {drift.value.toFixed(2)}
              </Flex>
            </Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
