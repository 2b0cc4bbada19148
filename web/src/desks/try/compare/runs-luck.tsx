import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { useState } from 'react';
import { ask, type Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { TextAction } from '../../../kit/form/action.js';
import { useAction } from '../../../kit/form/use-action.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { useDataSet } from '../../use-data-set.js';
import { luckText } from './luck-text.js';

/** How much of the best of all runs over the same folds is luck, once it is asked for. */
export function RunsLuck({
  runs,
  metric: key,
}: {
  /** Those over the folds. */
  runs: readonly Schemas['TrialInfo'][];
  metric: string;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const [found, setFound] = useState<{ of: string; answer: Schemas['RunsLuck'] } | null>(null);
  const done = runs.filter(({ state }) => state === 'done');
  const [first] = done;
  if (!first || done.length < 2) return null;
  // What was found of other runs, or by another metric, is no longer shown.
  const asked = JSON.stringify([key, ...done.map(({ id }) => id)]);
  const url = address('/data-sets/{dataSet}/trials/{trial}/luck', {
    dataSet: dataSet.address,
    trial: first.id,
  });
  const { name } = metricNamed(key);
  return (
    <Box mt={2} fontSize="13.5px">
      {found?.of === asked ? (
        <Text role="status">{luckText(found.answer, name)}</Text>
      ) : (
        <TextAction
          onClick={() =>
            doing.run(async () => setFound({ of: asked, answer: await ask(url, { metric: key }) }))
          }
        >
          {doing.busy
            ? `Drawing samples of the rows for ${counted(done.length, 'run')} …`
            : `How much of the best ${name} is luck?`}
        </TextAction>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
