import { Box, Text } from '@chakra-ui/react';
import { metricNamed } from '@modest-sieve/core/metrics';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { figureText } from '../../../kit/table/format.js';
import { PlanChoice, PlanSentence } from '../../../kit/sentence/plan-sentence.js';
import { PlanText } from '../../../kit/sentence/plan-text.js';
import { usePreview, Waiting } from '../../../kit/answer/preview.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { useDataSet } from '../../use-data-set.js';
import { settingsIn } from '../typed-values.js';

/** What weight on a subgroup does to it and to the rest: all rows alike, the subgroup counting more, the subgroup alone. */
export function ArmsView({ trial }: { trial: Schemas['TrialDetail'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const columns = dataSet.profile.filter(
    // Folds keep groups whole: a group that is held out has no row to train on.
    ({ name, kind, top }) =>
      name !== dataSet.roles?.group &&
      kind !== 'number' &&
      kind !== 'text' &&
      top.length > 1 &&
      name !== dataSet.roles?.target,
  );
  const [column, setColumn] = useState(columns[0]?.name ?? '');
  const values = columns.find(({ name }) => name === column)?.top.map((level) => level.value) ?? [];
  const [chosen, setValue] = useState('');
  const value = values.includes(chosen) ? chosen : (values[0] ?? '');
  const [text, setText] = useState('2, 5, 10');
  const weights = settingsIn(text);
  const arms = usePreview(
    address('/data-sets/{dataSet}/trials/{trial}/arms', { dataSet: dataSet.address, trial: trial.id }),
    value === '' || typeof weights === 'string' ? null : { column, value, weights },
  );
  const { name } = metricNamed(trial.plan.metric);
  if (columns.length === 0)
    return <Text color="quiet">There is no column of categories whose rows could be given weight.</Text>;
  return (
    <Box mt={3}>
      <PlanSentence label="Weight on a subgroup">
        Let rows with{' '}
        <PlanChoice
          label="column of the subgroup"
          value={column}
          choices={columns.map((one) => ({ value: one.name, text: one.name }))}
          onChange={setColumn}
        />{' '}
        <PlanChoice
          label="subgroup"
          value={value}
          choices={values.map((one) => ({ value: one, text: one }))}
          onChange={setValue}
        />{' '}
        count <PlanText label="weights" value={text} none="2, 5, 10" onChange={setText} /> times.
      </PlanSentence>
      {typeof weights === 'string' ? <ErrorMessage>{weights}</ErrorMessage> : null}
      <ErrorMessage>{arms.error?.message}</ErrorMessage>
      <Waiting of={arms} what="Fitting the arms" />
      {arms.data && !arms.error ? (
        <Ruled
          label="Arms"
          headings={[
            { text: 'arm' },
            { text: `${name} on the subgroup`, numeric: true },
            { text: 'on the rest', numeric: true },
          ]}
        >
          {arms.data.map(({ kind, weight, subgroup, rest }) => (
            <tr key={`${kind} ${weight ?? ''}`}>
              <Cell>
                {kind === 'unweighted'
                  ? 'all rows alike'
                  : kind === 'weighted'
                    ? `${value} counts ${weight ?? ''} times`
                    : `${value} alone`}
              </Cell>
              <Cell numeric>{withError(subgroup)}</Cell>
              <Cell numeric>{withError(rest)}</Cell>
            </tr>
          ))}
        </Ruled>
      ) : null}
      <Text fontSize="13px" color="quiet">
        Mean ± standard error over the folds in which there are such rows.
      </Text>
    </Box>
  );
}

const withError = ({ mean, se }: Schemas['ArmInfo']['rest']): string =>
  mean === null ? 'undefined' : `${figureText(mean)}${se === null ? '' : ` ± ${figureText(se)}`}`;
