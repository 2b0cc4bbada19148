import { useState } from 'react';
import { Outlet, useNavigate, useParams } from 'react-router';
import { counted } from '@modest-sieve/core/foundation';
import { stepKindOf } from '@modest-sieve/core/data';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Removing } from '../kit/form/removing.js';
import { Renaming } from '../kit/form/renaming.js';
import { Answer } from '../kit/answer/states.js';
import { Strip } from '../kit/plot/strip.js';
import { Title } from '../kit/layout/title.js';
import { OpenVersionNote } from './open-version.js';
import { DataSetContext, useDataSet, type TriedSteps } from './use-data-set.js';

/** A data set: its title, the strip, and the desk of the stage that is open. */
export function DataSetPage() {
  const { dataSet: id = '' } = useParams();
  const address = useCourseApi();
  const dataSet = useAnswer(address('/data-sets/{dataSet}', { dataSet: id }));
  const [drawn, draw] = useState<SplitConsequences | null>(null);
  const [tried, drawSteps] = useState<TriedSteps | null>(null);
  return (
    <Answer of={dataSet} what="the data set">
      {(data) => (
        <DataSetContext value={{ dataSet: data, draw, drawSteps }}>
          <Title aside={aside(data)} actions={<DataSetActions />}>
            {data.name}
          </Title>
          <OpenVersionNote />
          <Strip
            strip={{
              ...preparedRows(data, tried),
              split: tried ? null : (drawn ?? data.splits[0]?.consequences ?? null),
            }}
            stages={[
              { to: 'look', text: 'Look' },
              { to: 'prepare', text: 'Prepare' },
              { to: 'split', text: 'Split' },
              { to: 'try', text: 'Try' },
              { to: 'release', text: 'Release' },
            ]}
          />
          <Outlet />
        </DataSetContext>
      )}
    </Answer>
  );
}

function DataSetActions() {
  const { dataSet } = useDataSet();
  const { id } = useCourse();
  const address = useCourseApi();
  const navigate = useNavigate();
  const url = address('/data-sets/{dataSet}', { dataSet: dataSet.id });
  return (
    <>
      <Renaming name={dataSet.name} what="the data set" url={url} />
      <Removing
        what="the data set"
        name="the data set"
        own="dataSet"
        removal={dataSet.removal}
        url={url}
        onDone={() => void navigate(`/courses/${id}/data`)}
      />
    </>
  );
}

/** The rows as they came, and what the steps of a version, or those that are tried, left of them. */
function preparedRows(data: Schemas['DataSetDetail'], tried: TriedSteps | null) {
  const { steps, effects } = tried ?? data;
  const raw = tried ? data.raw.rows : (effects[0]?.rowsBefore ?? data.rows);
  return {
    raw,
    rows: effects.at(-1)?.rowsAfter ?? raw,
    columns: data.profile.length,
    steps: steps.filter((step) => !step.off).length,
    fallen: effects.flatMap(({ fallen }, i) => {
      const step = steps[i];
      return fallen > 0 && step ? [{ rows: fallen, why: stepKindOf(step).reason ?? '' }] : [];
    }),
  };
}

function aside(data: Schemas['DataSetDetail']): string {
  const parts = [`version ${data.version}`, counted(data.profile.length, 'column')];
  if (data.roles) parts.push(`target ${data.roles.target}`);
  if (data.roles?.group) parts.push(`groups ${data.roles.group}`);
  if (data.roles?.time) parts.push(`time ${data.roles.time}`);
  return parts.join(' · ');
}
