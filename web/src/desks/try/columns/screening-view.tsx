import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { choosingMetrics } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import type { ScreenBy } from '@modest-sieve/core/models';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { usePreview, Waiting } from '../../../kit/answer/preview.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { PlanChoice, PlanNumber, PlanSentence } from '../../../kit/sentence/plan-sentence.js';
import { figureText, pText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { useDataSet } from '../../use-data-set.js';
import { SCREEN_CHOICES } from './screens.js';

const KEPT = 3;

/** Columns set against the target one by one, and what comes of choosing among them outside the folds. */
export function ScreeningView({ trial }: { trial: Schemas['TrialDetail'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const features = trial.plan.features.length;
  const [by, setBy] = useState<ScreenBy>('anova');
  const [keep, setKeep] = useState(Math.min(KEPT, features));
  const [metric, setMetric] = useState(trial.plan.metric);
  const found = usePreview(
    address('/data-sets/{dataSet}/trials/{trial}/screening', { dataSet: dataSet.address, trial: trial.id }),
    { by, keep, metric },
  );
  const { name } = metricNamed(metric);
  const statistic = SCREEN_CHOICES.find(({ value }) => value === by)?.statistic ?? '';
  return (
    <Box>
      <Subtitle>Screening</Subtitle>
      <PlanSentence label="Screening">
        Keep the{' '}
        <PlanNumber
          label="columns that are kept"
          value={keep}
          min={1}
          max={features}
          step={1}
          onChange={setKeep}
        />{' '}
        columns that are strongest by{' '}
        <PlanChoice label="statistic" value={by} choices={SCREEN_CHOICES} onChange={setBy} />, and judge the
        model of this run by{' '}
        <PlanChoice
          label="metric of the screening"
          value={metric}
          choices={choosingMetrics(dataSet.roles?.task ?? 'binary').map((one) => ({
            value: one.key,
            text: one.name,
          }))}
          onChange={setMetric}
        />
        .
      </PlanSentence>
      <ErrorMessage>{found.error?.message}</ErrorMessage>
      <Waiting of={found} what="Screening inside and outside the folds" />
      {found.data && !found.error ? (
        <>
          <Leak leak={found.data.leak} name={name} />
          <Columns screening={found.data} statistic={statistic} group={dataSet.roles?.group ?? null} />
        </>
      ) : null}
    </Box>
  );
}

type Screening = Schemas['ColumnScreening'];

/** The two figures side by side, with the target as it is and where there is nothing to find. */
function Leak({ leak, name }: { leak: Screening['leak']; name: string }) {
  const text = ({ mean, se, reason }: Screening['leak']['inside']) =>
    mean === null ? `undefined: ${reason ?? ''}` : `${figureText(mean)} ± ${figureText(se)}`;
  const lines = [
    { text: 'inside each fold, by its training rows', of: 'inside' },
    { text: 'outside, by all rows before the folds', of: 'outside' },
  ] as const;
  return (
    <>
      <Ruled
        label="Screening inside and outside the folds"
        headings={[
          { text: 'columns are chosen' },
          { text: `${name}, target as it is`, numeric: true },
          { text: 'target shuffled: nothing to find', numeric: true },
        ]}
      >
        {lines.map(({ text: words, of }) => (
          <tr key={of} data-screened={of}>
            <Cell>{words}</Cell>
            <Cell numeric>
              <b>{text(leak[of])}</b>
            </Cell>
            <Cell numeric>{text(leak.shuffled[of])}</Cell>
          </tr>
        ))}
      </Ruled>
      <Text fontSize="13.5px" color="quiet" mt={1}>
        Mean over {counted(leak.folds, 'fold')} ± standard error. Columns that are chosen outside the folds
        have seen the rows that judge them: the more columns there are, and the fewer rows, the more that
        pretends. With a shuffled target only the figure inside the folds is one of guessing.
      </Text>
    </>
  );
}

function Columns({
  screening: { columns, leak },
  statistic,
  group,
}: {
  screening: Screening;
  statistic: string;
  /** The column whose rows belong together. */
  group: string | null;
}) {
  const kept = new Map(leak.kept.map(({ column, folds }) => [column, folds]));
  return (
    <Box mt={4}>
      <Ruled
        label="Columns beside the target"
        headings={[
          { text: 'column' },
          { text: statistic, numeric: true },
          { text: '95 % of shuffled targets below', numeric: true },
          { text: 'p', numeric: true },
          { text: 'false discovery rate', numeric: true },
          { text: 'kept in folds', numeric: true },
        ]}
      >
        {columns.map((one) => (
          <tr key={one.column} data-column={one.column}>
            <Cell>{one.column}</Cell>
            <Cell numeric>{one.statistic === null && one.p === 0 ? '∞' : figureText(one.statistic)}</Cell>
            <Cell numeric>{figureText(one.shuffled)}</Cell>
            <Cell numeric>{pText(one.p)}</Cell>
            <Cell numeric>{pText(one.q)}</Cell>
            <Cell numeric>{`${String(kept.get(one.column) ?? 0)} of ${String(leak.folds)}`}</Cell>
          </tr>
        ))}
      </Ruled>
      <Text fontSize="13.5px" color="quiet" mt={1}>
        Each column by itself on the training rows; what only counts together with others is not seen. The
        rate is the share of columns of noise to be expected among those down to this one. A dash: the column
        does not vary, or the statistic is not made for it.
        {group === null
          ? ''
          : ` All of it takes rows for independent; those of one ${group} are not, so that p and the rate may come out too small.`}
      </Text>
    </Box>
  );
}
