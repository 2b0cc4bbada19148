import { Box, Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { selectionFits, choosingMetrics, type SelectionWay } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { usePreview, Waiting } from '../../../kit/answer/preview.js';
import { Action, TextAction } from '../../../kit/form/action.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { axisOf } from '../../../kit/plot/axis.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { PlanChoice, PlanNumber, PlanSentence } from '../../../kit/sentence/plan-sentence.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { useDataSet } from '../../use-data-set.js';

const WAYS: readonly { readonly value: SelectionWay; readonly text: string }[] = [
  { value: 'forward', text: 'forward, adding the feature that brings most' },
  { value: 'backward', text: 'backward, leaving out the feature that costs least' },
];
const MOST = 8;

/** Features chosen step by step for the model of a run, and what choosing them outside the folds pretends. */
export function SelectionView({
  trial,
  onTake,
}: {
  trial: Schemas['TrialDetail'];
  /** Takes features up into the sentence. */
  onTake: (features: readonly string[]) => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { features } = trial.plan;
  const [way, setWay] = useState<SelectionWay>('forward');
  const [most, setMost] = useState(Math.min(MOST, features.length));
  const [metric, setMetric] = useState(trial.plan.metric);
  /** Only what was asked for is computed: it takes many fits. */
  const [asked, setAsked] = useState<Schemas['SelectionRequest'] | null>(null);
  const found = usePreview(
    address('/data-sets/{dataSet}/trials/{trial}/selection', { dataSet: dataSet.address, trial: trial.id }),
    asked,
  );
  const folds = dataSet.foldSets.find(({ id }) => id === trial.foldSetId)?.folds ?? 0;
  return (
    <Box mt={6}>
      <Subtitle>Step by step</Subtitle>
      <PlanSentence label="Selection of features">
        Choose features{' '}
        <PlanChoice label="way of choosing features" value={way} choices={WAYS} onChange={setWay} />
        {way === 'forward' ? (
          <>
            , up to{' '}
            <PlanNumber
              label="features at most"
              value={most}
              min={1}
              max={features.length}
              step={1}
              onChange={setMost}
            />
          </>
        ) : null}
        , for the model of this run by{' '}
        <PlanChoice
          label="metric of the selection"
          value={metric}
          choices={choosingMetrics(dataSet.roles?.task ?? 'binary').map(({ key, name }) => ({
            value: key,
            text: name,
          }))}
          onChange={setMetric}
        />
        .
      </PlanSentence>
      <Flex gap={3} mt={2} align="center" wrap="wrap">
        <Action disabled={features.length < 2} onClick={() => setAsked({ way, most, metric })}>
          Choose features
        </Action>
        <Text fontSize="13.5px" color="quiet">
          {features.length < 2
            ? 'There is a single feature.'
            : `${count(selectionFits(features.length, folds, most, way))} fits of this model.`}
        </Text>
      </Flex>
      <ErrorMessage>{found.error?.message}</ErrorMessage>
      {asked ? <Waiting of={found} what="Choosing features" /> : null}
      {asked && found.data && !found.error ? (
        <Found selection={found.data} name={metricNamed(asked.metric).name} onTake={onTake} />
      ) : null}
    </Box>
  );
}

type Selection = Schemas['FeatureSelection'];

function Found({
  selection: { steps, best, simplest, kept, folds },
  name,
  onTake,
}: {
  selection: Selection;
  name: string;
  onTake: (features: readonly string[]) => void;
}) {
  const line = (of: 'inside' | 'outside') =>
    steps.flatMap((step) => {
      const { mean, se } = step[of];
      return mean === null ? [] : [{ x: step.count, y: mean, ...(se === null ? {} : { error: se }) }];
    });
  const largest = Math.max(...steps.map((step) => step.count));
  const simple = steps.find(({ count: own }) => own === simplest);
  return (
    <>
      <LinePlot
        label={`${name} by number of features`}
        series={[
          { name: 'chosen inside each fold, ± standard error', points: line('inside'), colour: 'validation' },
          {
            name: 'chosen outside, by all rows before the folds',
            points: line('outside').map(({ x, y }) => ({ x, y })),
            colour: 'training',
            dash: '6 4',
          },
        ]}
        x={{
          title: 'features',
          domain: [0, largest],
          ticks: axisOf([0, largest], [0, null]).ticks.filter((tick) => tick <= largest),
        }}
        y={{ title: name }}
      />
      <Ruled
        label="Features step by step"
        headings={[
          { text: 'features', numeric: true },
          { text: 'what they are, by all rows' },
          { text: 'inside', numeric: true },
          { text: 'outside', numeric: true },
          { text: '' },
        ]}
      >
        {steps.map((step) => (
          <tr key={step.count} data-step={step.count}>
            <Cell numeric strong={step.count === simplest}>
              {step.count}
            </Cell>
            <Cell>{step.features.join(', ')}</Cell>
            <Cell numeric>{figureText(step.inside.mean)}</Cell>
            <Cell numeric>{figureText(step.outside.mean)}</Cell>
            <Cell>
              <TextAction onClick={() => onTake(step.features)}>Use these</TextAction>
            </Cell>
          </tr>
        ))}
      </Ruled>
      <Text fontSize="13.5px" color="quiet" mt={1}>
        {simple
          ? `Inside the folds ${String(best)} did best; ${counted(simple.count, 'feature')} lie within one standard error of it. With that many were kept: ${kept.map((one) => `${one.column} in ${String(one.folds)}`).join(', ')} of ${counted(folds, 'fold')}. `
          : ''}
        Features that are chosen outside the folds have seen the rows that judge them: that figure is not one
        of new rows.
      </Text>
    </>
  );
}
