import { Box, Text } from '@chakra-ui/react';
import type { SplitPlan } from '@modest-sieve/core/splitting';
import type { SeedFigures, SeedSensitivity } from '@modest-sieve/core/audit';
import { useState } from 'react';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/form/action.js';
import { percent, valueText } from '../../kit/table/format.js';
import { usePreview, Waiting } from '../../kit/answer/preview.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';

/** How the plan's figures vary over twenty draws, so that nobody takes a lucky one unknowingly. */
export function SeedSensitivityView({ plan }: { plan: SplitPlan }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const [asked, setAsked] = useState(false);
  const url = address('/data-sets/{dataSet}/split-record', { dataSet: dataSet.address });
  const record = usePreview(url, asked ? plan : null, [dataSet.roles, dataSet.version]);
  return (
    <>
      <Subtitle>Is this seed a lucky one?</Subtitle>
      {asked ? (
        <>
          {record.data ? <Figures record={record.data} target={dataSet.roles?.target ?? ''} /> : null}
          <Waiting of={record} what="Splitting with twenty seeds" />
          <ErrorMessage>{record.error?.message}</ErrorMessage>
        </>
      ) : (
        <>
          <Text fontSize="14px" color="quiet" mb={2}>
            The same plan with the next nineteen seeds shows what is chance in its figures.
          </Text>
          <Action plain onClick={() => setAsked(true)}>
            Try twenty seeds
          </Action>
        </>
      )}
    </>
  );
}

function Figures({ record, target }: { record: SeedSensitivity; target: string }) {
  const { draws, label } = record;
  const lines: [string, (draw: SeedFigures) => number | null, (value: number) => string][] = [
    [
      label === null ? `mean of ${target}, held out` : `${target} is ${label}, held out`,
      (draw) => draw.target,
      label === null ? valueText : percent,
    ],
    ['largest difference of a feature', (draw) => draw.drift?.value ?? null, (value) => value.toFixed(2)],
    ['adversarial validation, area', (draw) => draw.apart, (value) => value.toFixed(2)],
  ];
  return (
    <>
      <Ruled
        label="Twenty seeds"
        headings={[
          { text: 'figure' },
          { text: 'this draw', numeric: true },
          { text: 'all twenty' },
          { text: 'rank', numeric: true },
        ]}
      >
        {lines.map(([name, figure, shown]) => {
          const values = draws.map(figure);
          const own = values[0] ?? null;
          const known = values.filter((value) => value !== null);
          if (own === null || known.length === 0) return null;
          return (
            <tr key={name}>
              <Cell>{name}</Cell>
              <Cell numeric>{shown(own)}</Cell>
              <Cell nowrap>
                <Marks values={known} own={own} />
                <Text as="span" fontSize="12.5px" color="quiet">
                  {shown(Math.min(...known))} to {shown(Math.max(...known))}
                </Text>
              </Cell>
              <Cell numeric>
                {1 + known.filter((value) => value < own).length} of {known.length}
              </Cell>
            </tr>
          );
        })}
      </Ruled>
      <Text fontSize="13px" color="quiet" mt={2}>
        A seed near either end is unusual. Choose the plan, not the seed.
      </Text>
    </>
  );
}

const WIDTH = 130;

/** One tick for each draw, and a dot for the plan's own. */
function Marks({ values, own }: { values: readonly number[]; own: number }) {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = (value: number) => 5 + ((value - low) / (high - low || 1)) * (WIDTH - 10);
  return (
    <Box as="span" display="block">
      <svg width={WIDTH} height="16" aria-hidden>
        {values.map((value, i) => (
          <line key={i} x1={x(value)} x2={x(value)} y1="3" y2="13" stroke="var(--chakra-colors-figure)" />
        ))}
        <circle cx={x(own)} cy="8" r="4" fill="var(--chakra-colors-accent)" />
      </svg>
    </Box>
  );
}
