import { Box, chakra } from '@chakra-ui/react';
import { trialMetrics } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import type { Task } from '@modest-sieve/core/data';
import { TextAction } from '../../kit/form/action.js';
import { MOST_ALSO } from './also-shown.js';

/** Chooses the metrics that have columns of their own in the table of runs. */
export function AlsoShown({
  task,
  also,
  onChange,
}: {
  task: Task;
  also: readonly string[];
  onChange: (also: readonly string[]) => void;
}) {
  const left = trialMetrics(task).filter(({ key }) => !also.includes(key));
  return (
    <Box mt={2} fontSize="13.5px" color="quiet" role="group" aria-label="Metrics that are also shown">
      Also shown:{' '}
      {also.map((key) => (
        <Box as="span" key={key} mr={2}>
          {metricNamed(key).name}{' '}
          <TextAction
            label={`Hide ${metricNamed(key).name}`}
            onClick={() => onChange(also.filter((one) => one !== key))}
          >
            hide
          </TextAction>
        </Box>
      ))}
      {also.length < MOST_ALSO ? (
        <chakra.select
          aria-label="Show a metric"
          value=""
          bg="transparent"
          color="accent"
          fontWeight={700}
          cursor="pointer"
          onChange={(event) => {
            if (event.target.value !== '') onChange([...also, event.target.value]);
          }}
        >
          <option value="">another metric …</option>
          {left.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </chakra.select>
      ) : null}
    </Box>
  );
}
