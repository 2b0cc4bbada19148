import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { usualMetrics } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { useState } from 'react';
import { send, useAnswer, type Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { figureText, percent } from '../../../kit/table/format.js';
import { Select } from '../../../kit/form/select.js';
import { Answer } from '../../../kit/answer/states.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { AnswerGrid } from '../../../kit/plot/answer-grid.js';
import { BoxPlot } from '../../../kit/plot/box-plot.js';
import { ClassCurves } from '../../../kit/plot/class-curves.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { ConfirmButton } from '../../../kit/form/confirm-button.js';
import { useAction } from '../../../kit/form/use-action.js';
import { useDataSet } from '../../use-data-set.js';
import { GroupsTable } from './groups-table.js';
import { NumberEvidence } from './number-evidence.js';

type Trial = Schemas['TrialDetail'];
type Rows = 'folds' | 'training' | 'validation' | 'held-out';

const ROWS: readonly { value: Rows; text: string }[] = [
  { value: 'folds', text: 'each row by the fold that held it out' },
  { value: 'training', text: 'the training rows' },
  { value: 'validation', text: 'the validation part' },
  { value: 'held-out', text: 'the held-out part' },
];

/** Where a model errs: on rows of one's choice, by subgroup, by target, row by row. */
export function EvidenceView({ trial }: { trial: Trial }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const [on, setOn] = useState<Rows>('folds');
  const [by, setBy] = useState('');
  const at = { dataSet: dataSet.address, trial: trial.id };
  const mayLook = on !== 'held-out' || trial.result?.heldOut;
  const evidence = useAnswer(
    mayLook
      ? address('/data-sets/{dataSet}/trials/{trial}/evidence', at, {
          rows: on,
          ...(by === '' ? {} : { by }),
        })
      : null,
  );
  const hasSplit = dataSet.foldSets.some(({ id, splitId }) => id === trial.foldSetId && splitId !== null);
  const choices = ROWS.filter(
    ({ value }) =>
      value === 'folds' ||
      value === 'training' ||
      (hasSplit && (value === 'held-out' || trial.result?.validation !== null)),
  );
  return (
    <Box>
      <Flex gap={5} wrap="wrap">
        <Select label="Rows" value={on} choices={choices} onChange={setOn} />
        <Select
          label="By subgroup"
          value={by}
          choices={[
            { value: '', text: 'none' },
            ...dataSet.profile.map(({ name }) => ({ value: name, text: name })),
          ]}
          onChange={setBy}
        />
      </Flex>
      {mayLook ? (
        <Answer of={evidence} what="the evidence">
          {(data) => <Shown evidence={data} by={by} trial={trial} />}
        </Answer>
      ) : (
        <Box mt={4} maxW="62ch">
          <Text mb={3}>
            The held-out rows show whether a model has learned anything, once. Each look that leads to a
            choice wears them out, so this one is recorded with your name.
          </Text>
          <ConfirmButton
            text="Look at the held-out figures"
            consequence="It is recorded that you looked."
            busy={doing.busy}
            onConfirm={() =>
              doing.run(() => send('post', address('/data-sets/{dataSet}/trials/{trial}/held-out', at)))
            }
          />
          <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        </Box>
      )}
    </Box>
  );
}

const figuresText = (figures: Schemas['TrialEvidence']['figures'], keys: readonly string[]): string =>
  keys.map((key) => `${metricNamed(key).name} ${figureText(figures[key]?.value)}`).join(' · ');

function Shown({ evidence, by, trial }: { evidence: Schemas['TrialEvidence']; by: string; trial: Trial }) {
  const { dataSet } = useDataSet();
  const { metric } = trial.plan;
  const usual = usualMetrics(dataSet.roles?.task ?? 'binary', metric).map(({ key }) => key);
  return (
    <>
      <Subtitle>Figures</Subtitle>
      <Text fontSize="13.5px" color="quiet">
        {counted(evidence.rows, 'row')}. {figuresText(evidence.figures, usual)}
      </Text>
      <chakra.details fontSize="13.5px" color="quiet">
        <chakra.summary cursor="pointer" w="fit-content">
          all other figures
        </chakra.summary>
        {figuresText(
          evidence.figures,
          Object.keys(evidence.figures).filter((key) => !usual.includes(key)),
        )}
      </chakra.details>
      {evidence.classes ? (
        <>
          <Subtitle>Answer grid</Subtitle>
          <AnswerGrid labels={evidence.classes.labels} counts={evidence.classes.confusion} />
          <ClassCurves classes={evidence.classes} />
        </>
      ) : null}
      {evidence.numbers ? <NumberEvidence numbers={evidence.numbers} /> : null}
      {evidence.groups.length > 0 ? (
        <GroupsTable evidence={evidence} by={by} metric={metric} keys={usual} />
      ) : null}
      {evidence.residualBoxes ? (
        <>
          <Subtitle>{`Residuals by ${by}`}</Subtitle>
          <BoxPlot boxes={evidence.residualBoxes} isDate={false} />
        </>
      ) : null}
      <Subtitle>By true value</Subtitle>
      <Ruled
        label="By true value"
        headings={[
          { text: evidence.classes ? 'class' : 'target' },
          { text: 'rows', numeric: true },
          { text: evidence.classes ? 'right' : 'root mean squared error', numeric: true },
          ...(evidence.numbers ? [{ text: 'mean error', numeric: true }] : []),
        ]}
      >
        {evidence.levels.map(({ level, rows, figure, meanError }) => (
          <tr key={level}>
            <Cell>{level}</Cell>
            <Cell numeric>{count(rows)}</Cell>
            <Cell numeric>{evidence.classes ? percent(figure) : figureText(figure)}</Cell>
            {meanError === null ? null : <Cell numeric>{figureText(meanError)}</Cell>}
          </tr>
        ))}
      </Ruled>
      <Subtitle>The rows with the largest errors</Subtitle>
      <Ruled
        label="The rows with the largest errors"
        headings={[
          { text: 'row' },
          { text: 'truth' },
          { text: 'predicted' },
          { text: 'error', numeric: true },
        ]}
      >
        {evidence.largest.map(({ row, name, truth, predicted, error }) => (
          <tr key={row}>
            <Cell mono>{name}</Cell>
            <Cell>{truth}</Cell>
            <Cell>{predicted}</Cell>
            <Cell numeric>{figureText(error)}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
