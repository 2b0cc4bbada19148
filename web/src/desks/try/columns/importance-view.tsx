import { Box, Text } from '@chakra-ui/react';
import { choosingMetrics } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { usePreview, Waiting } from '../../../kit/answer/preview.js';
import { Select } from '../../../kit/form/select.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { useDataSet } from '../../use-data-set.js';
import { byWorth, MANY_VALUES, worthText } from './by-worth.js';
import { WorthBar } from './worth-bar.js';

/** What each feature is worth: by how much the metric is worse where it is shuffled, beside what the model itself splits on. */
export function ImportanceView({ trial }: { trial: Schemas['TrialDetail'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const [metric, setMetric] = useState(trial.plan.metric);
  const found = usePreview(
    address('/data-sets/{dataSet}/trials/{trial}/importance', {
      dataSet: dataSet.address,
      trial: trial.id,
    }),
    { metric },
  );
  const { name } = metricNamed(metric);
  const shares = new Map(trial.model?.importances.map(({ feature, share }) => [feature, share]));
  const lines = byWorth(found.data ?? []);
  const widest = Math.max(...lines.map(({ mean, se }) => Math.abs(mean ?? 0) + (se ?? 0)), 0);
  const distinct = new Map(dataSet.profile.map((column) => [column.name, column.distinct]));
  const many = lines.filter(
    ({ column, isShown }) =>
      !isShown && (shares.get(column) ?? 0) > 1 / lines.length && (distinct.get(column) ?? 0) > MANY_VALUES,
  );
  return (
    <>
      <Subtitle>What each column is worth</Subtitle>
      <Select
        label="Metric"
        value={metric}
        choices={choosingMetrics(dataSet.roles?.task ?? 'binary').map((one) => ({
          value: one.key,
          text: one.name,
        }))}
        onChange={setMetric}
      />
      <ErrorMessage>{found.error?.message}</ErrorMessage>
      <Waiting of={found} what="Shuffling each column over the folds" />
      {lines.length > 0 && !found.error ? (
        <Ruled
          label="What each column is worth"
          headings={[
            { text: 'column' },
            { text: 'loss where it is shuffled' },
            { text: 'mean ± standard error', numeric: true },
            { text: '' },
            ...(shares.size > 0 ? [{ text: 'share of the gain of its splits', numeric: true }] : []),
          ]}
        >
          {lines.map((line) => (
            <tr key={line.column}>
              <Cell>{line.column}</Cell>
              <Cell>
                <WorthBar line={line} widest={widest} />
              </Cell>
              <Cell numeric>{worthText(line, widest)}</Cell>
              <Cell nowrap>
                {line.isShown ? (
                  ''
                ) : (
                  <Text as="span" color="unsure">
                    ≈ not shown to help
                  </Text>
                )}
              </Cell>
              {shares.size > 0 ? (
                <Cell numeric>
                  {shares.has(line.column) ? `${(100 * (shares.get(line.column) ?? 0)).toFixed(1)} %` : '0 %'}
                </Cell>
              ) : null}
            </tr>
          ))}
        </Ruled>
      ) : null}
      {many.map(({ column }) => (
        <Text key={column} fontSize="13.5px" color="unsure" mt={1}>
          ≈ {column} has {distinct.get(column)} different values, so there are many places to split it; the
          model does so often, and on rows that it has not seen that is not shown to help.
        </Text>
      ))}
      <Box fontSize="13px" color="quiet" mt={1}>
        In every fold a column’s values go to other rows, ten times or more, and the rows that the model has
        not seen are predicted again: how much worse {name} is then, mean over the folds. Columns that say the
        same as others seem worth little each. “Not shown” means: no worse than by chance, with 2.5 % false
        alarms among all columns
        {dataSet.roles?.group
          ? `; rows of one ${dataSet.roles.group} resemble one another, so the folds must show it too.`
          : '.'}
      </Box>
    </>
  );
}
