import { Box } from '@chakra-ui/react';
import { Link, useSearchParams } from 'react-router';
import { useAnswer } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { SplitTable } from '../../desks/release/split-table.js';
import { Select } from '../../kit/form/select.js';
import { Answer, Empty } from '../../kit/answer/states.js';
import { Subtitle, Title } from '../../kit/layout/title.js';

/** Where an exercise begins: the data set and the split whose held-out rows it asks for. */
export function BeginExercise({ dataSet }: { dataSet: string | null }) {
  const { id } = useCourse();
  const address = useCourseApi();
  const list = useAnswer(address('/data-sets'));
  const [, setSearch] = useSearchParams();
  return (
    <>
      <Title>New exercise</Title>
      <Answer of={list} what="the data sets">
        {({ dataSets }) => {
          const [first] = dataSets;
          if (!first)
            return (
              <Empty title="First, a table">
                An exercise asks for the held-out rows of a split.{' '}
                <Link to={`/courses/${id}/data`}>Import a table</Link>, mark its target and save a split.
              </Empty>
            );
          const chosen = dataSet ?? first.id;
          return (
            <>
              <Box maxW="420px">
                <Select
                  label="Data set"
                  value={chosen}
                  choices={dataSets.map(({ id: value, name, splits }) => ({
                    value,
                    text: splits === 0 ? `${name}, no split yet` : name,
                  }))}
                  onChange={(next) => setSearch({ dataSet: next }, { replace: true })}
                />
              </Box>
              <Splits address={chosen} />
            </>
          );
        }}
      </Answer>
    </>
  );
}

function Splits({ address: dataSetAddress }: { address: string }) {
  const { id } = useCourse();
  const address = useCourseApi();
  const dataSet = useAnswer(address('/data-sets/{dataSet}', { dataSet: dataSetAddress }));
  const desk = `/courses/${id}/data/${dataSetAddress}`;
  return (
    <Answer of={dataSet} what="its splits">
      {(found) =>
        found.splits.length === 0 ? (
          <Empty title={`No split of ${found.name} is saved yet`}>
            {found.roles === null ? (
              <>
                <Link to={`${desk}/look`}>Mark what is to be predicted</Link>, then save a split.
              </>
            ) : (
              <>
                <Link to={`${desk}/split`}>Save a split</Link>; it then appears here.
              </>
            )}
          </Empty>
        ) : (
          <>
            <Subtitle>On which split?</Subtitle>
            <SplitTable dataSet={found} />
          </>
        )
      }
    </Answer>
  );
}
