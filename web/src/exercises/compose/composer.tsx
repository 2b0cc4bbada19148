import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useAnswer, type Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { Answer, Empty } from '../../kit/answer/states.js';
import { BeginExercise } from './begin-exercise.js';
import { dataOf, firstSettings, settingsIn, type Settings } from '../common/settings.js';
import { Sheet } from './composed-sheet.js';

/** A new exercise on the split that the address names. */
export function Composer() {
  const [search] = useSearchParams();
  const address = useCourseApi();
  const { timeZone } = useCourse();
  const dataSetId = search.get('dataSet');
  const isChosen = dataSetId !== null && search.has('split');
  const dataSet = useAnswer(isChosen ? address('/data-sets/{dataSet}', { dataSet: dataSetId }) : null);
  const runs = useAnswer(isChosen ? address('/data-sets/{dataSet}/trials', { dataSet: dataSetId }) : null);
  if (!isChosen) return <BeginExercise dataSet={dataSetId} />;
  return (
    <Answer of={dataSet} what="the data set">
      {(found) => {
        const split = found.splits.find((s) => s.id === search.get('split'));
        return (
          <Answer of={runs} what="the runs on it">
            {(tried) => {
              const data = dataOf(found, tried);
              if (!split || !data)
                return <Empty title="This split is not known">It may belong to another data set.</Empty>;
              const start = firstSettings(split.id, data, timeZone);
              return <Sheet start={start} data={data} foldSets={found.foldSets} />;
            }}
          </Answer>
        );
      }}
    </Answer>
  );
}

/** A draft that was saved. */
export function DraftComposer({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const dataSet = useAnswer(
    exercise.dataSet ? address('/data-sets/{dataSet}', { dataSet: exercise.dataSet.address }) : null,
  );
  const runs = useAnswer(
    exercise.dataSet ? address('/data-sets/{dataSet}/trials', { dataSet: exercise.dataSet.address }) : null,
  );
  const [start] = useState<Settings>(settingsIn(exercise));
  return (
    <Answer of={dataSet} what="the data set">
      {(found) => {
        const data = dataOf(found, runs.data);
        return data ? (
          <Sheet key={exercise.id} start={start} data={data} foldSets={found.foldSets} exercise={exercise} />
        ) : (
          <Empty title="The data set has no roles any more">Mark its columns at Look.</Empty>
        );
      }}
    </Answer>
  );
}
