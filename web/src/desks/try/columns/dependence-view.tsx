import { Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { usePreview, Waiting } from '../../../kit/answer/preview.js';
import { Select } from '../../../kit/form/select.js';
import { ErrorMessage } from '../../../kit/layout/error-message.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { useDataSet } from '../../use-data-set.js';
import { useColumnText } from '../column-text.js';
import { DependenceMap } from './dependence-map.js';
import { DependencePlot } from './dependence-plot.js';

const NONE = '';

/** How predictions go along one feature, or two. */
export function DependenceView({ trial }: { trial: Schemas['TrialDetail'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const text = useColumnText();
  const names = (trial.model?.features ?? []).filter(({ kind }) => kind !== 'words').map(({ name }) => name);
  const labels = trial.model?.labels ?? [];
  const [chosen, setFirst] = useState(trial.model?.importances[0]?.feature ?? NONE);
  const first = names.includes(chosen) ? chosen : (names[0] ?? NONE);
  const [second, setSecond] = useState(NONE);
  const [label, setLabel] = useState(dataSet.roles?.positive ?? labels[0] ?? NONE);
  const columns = second === NONE || second === first ? [first] : [first, second];
  const found = usePreview(
    address('/data-sets/{dataSet}/trials/{trial}/dependence', {
      dataSet: dataSet.address,
      trial: trial.id,
    }),
    first === NONE ? null : { columns, label: labels.length > 0 ? label : null },
  );
  if (first === NONE) return null;
  const what =
    labels.length > 0 ? `probability of ${label}` : `predicted ${dataSet.roles?.target ?? 'value'}`;
  const isShown = found.data?.axes.every(({ column }, i) => column === columns[i]) ?? false;
  return (
    <>
      <Subtitle>What is predicted along a column</Subtitle>
      <Flex gap={4} wrap="wrap">
        <Select
          label="Column"
          value={first}
          choices={names.map((name) => ({ value: name, text: name }))}
          onChange={setFirst}
        />
        <Select
          label="and"
          value={columns[1] ?? NONE}
          choices={[
            { value: NONE, text: 'no other' },
            ...names.filter((name) => name !== first).map((name) => ({ value: name, text: name })),
          ]}
          onChange={setSecond}
        />
        {labels.length > 2 ? (
          <Select
            label="Class"
            value={label}
            choices={labels.map((one) => ({ value: one, text: one }))}
            onChange={setLabel}
          />
        ) : null}
      </Flex>
      <ErrorMessage>{found.error?.message}</ErrorMessage>
      <Waiting of={found} what="Predicting along the column" />
      {found.data && isShown && !found.error ? (
        <>
          {found.data.axes.length === 1 ? (
            <DependencePlot of={found.data} what={what} text={text} />
          ) : (
            <DependenceMap of={found.data} what={what} text={text} />
          )}
          <Text fontSize="13px" color="quiet">
            The column is set to the same value in {count(found.data.rowCount)} training rows, all else is
            left as it is, and the predictions are averaged. Where columns go together, some of these rows
            could not occur.
          </Text>
        </>
      ) : null}
    </>
  );
}
