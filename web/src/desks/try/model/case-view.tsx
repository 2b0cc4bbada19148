import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { shortNumber } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { ask, type Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { Action } from '../../../kit/form/action.js';
import { figureText, percent } from '../../../kit/table/format.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { useAction } from '../../../kit/form/use-action.js';
import { useDataSet } from '../../use-data-set.js';
import { CaseReasons } from './case-reasons.js';
import { PredictTable } from './predict-table.js';

type Feature = NonNullable<Schemas['TrialDetail']['model']>['features'][number];

const startOf = ({ kind, levels, fill }: Feature): string =>
  kind === 'category' ? (levels[0] ?? '') : fill === null ? '' : shortNumber(fill, 4);

const DAY = 24 * 3600 * 1000;

/** One case predicted, from values that are typed. */
export function CaseView({ trial }: { trial: Schemas['TrialDetail'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const features = trial.model?.features ?? [];
  const isDate = (name: string) => dataSet.profile.find((column) => column.name === name)?.kind === 'time';
  const [cells, setCells] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(
      features.map((feature) => [
        feature.name,
        isDate(feature.name) && feature.fill !== null
          ? new Date(feature.fill * DAY).toISOString().slice(0, 10)
          : startOf(feature),
      ]),
    ),
  );
  const [answer, setAnswer] = useState<Schemas['CaseAnswer'] | null>(null);
  const url = address('/data-sets/{dataSet}/trials/{trial}/case', {
    dataSet: dataSet.address,
    trial: trial.id,
  });
  return (
    <Box>
      <Text fontSize="13.5px" color="quiet" mt={3}>
        A case that is like most rows, to begin with. An empty field is a missing cell.
      </Text>
      <chakra.form
        onSubmit={(event) => {
          event.preventDefault();
          doing.run(async () => setAnswer(await ask(url, { cells })));
        }}
      >
        <Flex wrap="wrap" gap={4} mt={2}>
          {features.map((feature) => (
            <CaseField
              key={feature.name}
              feature={feature}
              value={cells[feature.name] ?? ''}
              wrong={doing.problem?.field === feature.name}
              onChange={(value) => setCells({ ...cells, [feature.name]: value })}
            />
          ))}
        </Flex>
        <Box mt={4}>
          <Action type="submit" busy={doing.busy}>
            Predict this case
          </Action>
        </Box>
      </chakra.form>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      {answer ? (
        <Box mt={4} role="status">
          <Text fontFamily="heading" fontSize="19px">
            {dataSet.roles?.target}: <b>{answer.answer}</b>
            {answer.low === null
              ? ''
              : `, 95 % of such cases from ${figureText(answer.low)} to ${figureText(answer.high)}`}
          </Text>
          {answer.probabilities.length > 0 ? (
            <Text color="quiet">
              {answer.probabilities
                .map(({ label, probability }) => `${label} ${percent(probability)}`)
                .join(' · ')}
            </Text>
          ) : null}
          {answer.warnings.map((warning) => (
            <Text key={warning} color="unsure">
              ≈ {warning}
            </Text>
          ))}
        </Box>
      ) : null}
      {answer?.explanation ? (
        <CaseReasons of={answer.explanation} labels={trial.model?.labels ?? []} />
      ) : null}
      <PredictTable
        url={address('/data-sets/{dataSet}/trials/{trial}/predictions', {
          dataSet: dataSet.address,
          trial: trial.id,
        })}
      />
    </Box>
  );
}

function CaseField({
  feature,
  value,
  wrong,
  onChange,
}: {
  feature: Feature;
  value: string;
  wrong: boolean;
  onChange: (value: string) => void;
}) {
  const box = {
    bg: 'sheet',
    color: 'ink',
    border: '1px solid',
    borderColor: wrong ? 'fails' : 'quiet',
    borderRadius: '4px',
    px: 2,
    py: '4px',
    w: '170px',
    fontSize: '14px',
  } as const;
  return (
    <chakra.label fontSize="13px" color="quiet" display="block">
      {feature.name}
      <Box>
        {feature.kind === 'category' ? (
          <chakra.select {...box} value={value} onChange={(event) => onChange(event.target.value)}>
            <option value="">missing</option>
            {feature.levels.map((level) => (
              <option key={level} value={level}>
                {level}
              </option>
            ))}
          </chakra.select>
        ) : (
          <chakra.input
            {...box}
            value={value}
            aria-invalid={wrong}
            onChange={(event) => onChange(event.target.value)}
          />
        )}
      </Box>
    </chakra.label>
  );
}
