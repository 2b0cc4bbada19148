import { Box, chakra, Flex } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { ColumnProfile } from '@modest-sieve/core/data';
import { useAnswer, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Distribution } from '../../kit/plot/distribution.js';
import { Answer } from '../../kit/answer/states.js';
import { Subtitle } from '../../kit/layout/title.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { useDataSet } from '../use-data-set.js';
import { ByValue } from './by-value.js';
import { ColumnSummary } from './column-summary.js';
import { CompleteTable, FindingsList } from './findings.js';
import { RolesSentence } from './roles-sentence.js';
import { RowsTable } from './rows-table.js';

/** What is in the table, column by column and row by row, and what the columns are for. */
export function ColumnsPage() {
  const { dataSet } = useDataSet();
  const { search, change } = useAddressed();
  const chosen = dataSet.profile.find((column) => column.name === search.get('column')) ?? dataSet.profile[0];
  const address = useCourseApi();
  const found = useAnswer(address('/data-sets/{dataSet}/findings', { dataSet: dataSet.address }));
  const along = new Map(found.data?.along?.bars.map(({ column, figures }) => [column, figures]));
  const strengths = new Map(found.data?.strengths.map((strength) => [strength.column, strength]));
  return (
    <>
      <TwoPane
        left={
          <>
            <Ruled
              label="Columns"
              headings={[
                { text: 'column' },
                { text: 'type' },
                { text: 'missing', numeric: true },
                { text: 'distinct', numeric: true },
                { text: alongText(found.data?.along ?? null, dataSet.roles?.target) },
                ...(dataSet.roles ? [{ text: `with ${dataSet.roles.target}`, numeric: true }] : []),
              ]}
            >
              {dataSet.profile.map((column) => (
                <ColumnLine
                  key={column.name}
                  column={column}
                  rows={dataSet.rows}
                  along={along.get(column.name) ?? null}
                  areShares={dataSet.roles?.task !== 'regression'}
                  role={roleOf(column.name, dataSet.roles)}
                  strength={dataSet.roles ? (strengths.get(column.name) ?? null) : undefined}
                  chosen={column.name === chosen?.name}
                  onChoose={() => change({ column: column.name })}
                />
              ))}
            </Ruled>
            <Answer of={found} what="the findings">
              {({ findings, complete }) => (
                <Flex gap={8} wrap="wrap">
                  <Box flex="1" minW="340px">
                    <FindingsList findings={findings} />
                  </Box>
                  <Box flex="1" minW="260px">
                    <CompleteTable complete={complete} />
                  </Box>
                </Flex>
              )}
            </Answer>
          </>
        }
        right={
          <>
            <Subtitle>What the columns are for</Subtitle>
            <RolesSentence key={dataSet.version} />
            {chosen ? (
              <>
                <ColumnSummary column={chosen} rows={dataSet.rows} />
                <ByValue column={chosen.name} />
              </>
            ) : null}
          </>
        }
      />
      <Subtitle>Rows</Subtitle>
      <RowsTable key={dataSet.version} />
    </>
  );
}

/** What the distributions show of the target. */
function alongText(along: Schemas['TableFindings']['along'], target: string | undefined): string {
  if (along === null || target === undefined) return 'distribution';
  return along.label === null
    ? `distribution, dots: mean of ${target}`
    : `distribution, dark: ${target} is ${along.label}`;
}

function roleOf(name: string, roles: ReturnType<typeof useDataSet>['dataSet']['roles']): string | null {
  if (!roles) return null;
  if (name === roles.target) return 'target';
  if (name === roles.identifier) return 'identifier';
  if (roles.withheld.includes(name)) return 'withheld';
  if (name === roles.weight) return 'weight';
  if (name === roles.group) return 'group';
  return name === roles.time ? 'time' : null;
}

function ColumnLine({
  column,
  rows,
  along,
  areShares,
  role,
  strength,
  chosen,
  onChoose,
}: {
  column: ColumnProfile;
  rows: number;
  /** The target at each bar of the distribution. */
  along: readonly (number | null)[] | null;
  areShares: boolean;
  role: string | null;
  /** How it goes with the target; undefined while there is none. */
  strength: { readonly measure: string; readonly value: number | null } | null | undefined;
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <chakra.tr
      bg={chosen ? 'sheet' : undefined}
      boxShadow={chosen ? 'inset 3px 0 0 var(--chakra-colors-accent)' : undefined}
    >
      <Cell strong>
        <chakra.button
          type="button"
          onClick={onChoose}
          aria-pressed={chosen}
          fontWeight={700}
          textAlign="left"
          pl={chosen ? 3 : 0}
          cursor="pointer"
          overflowWrap="anywhere"
        >
          {column.name}
        </chakra.button>
      </Cell>
      <Cell quiet>{role ? `${column.kind}, ${role}` : column.kind}</Cell>
      <Cell numeric>
        {count(column.missing)}
        {column.missing > 0 ? (
          <chakra.span color="quiet"> {((100 * column.missing) / rows).toFixed(1)} %</chakra.span>
        ) : null}
      </Cell>
      <Cell numeric>{count(column.distinct)}</Cell>
      <Cell quiet>
        <Distribution column={column} along={along} areShares={areShares} />
      </Cell>
      {strength === undefined ? null : (
        <Cell numeric>
          {strength && strength.value !== null ? (
            <Box as="span" title={strength.measure}>
              {strength.value.toFixed(2).replace('-', '−')}
            </Box>
          ) : null}
        </Cell>
      )}
    </chakra.tr>
  );
}
