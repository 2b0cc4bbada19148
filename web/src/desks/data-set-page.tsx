import { createContext, useContext, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import { counted, type SplitConsequences } from '@modest-sieve/core';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Answer } from '../kit/states.js';
import { Strip } from '../kit/strip.js';
import { Title } from '../kit/title.js';

interface DataSetHere {
  readonly dataSet: Schemas['DataSetDetail'];
  /** Shows a split on the strip that is not kept yet; null for the last one kept. */
  readonly draw: (split: SplitConsequences | null) => void;
}

const DataSetContext = createContext<DataSetHere | null>(null);

export function useDataSet(): DataSetHere {
  const here = useContext(DataSetContext);
  if (!here) throw new Error('this part stands within a data set');
  return here;
}

/** A data set: its title, the strip, and the desk of the stage that is open. */
export function DataSetPage() {
  const { dataSet: id = '' } = useParams();
  const address = useCourseApi();
  const dataSet = useAnswer<'DataSetDetail'>(address('data-sets', id));
  const [drawn, draw] = useState<SplitConsequences | null>(null);
  return (
    <Answer of={dataSet} what="the data set">
      {(data) => (
        <DataSetContext value={{ dataSet: data, draw }}>
          <Title aside={aside(data)}>{data.name}</Title>
          <Strip
            strip={{
              rows: data.rows,
              columns: data.profile.length,
              split: drawn ?? data.splits[0]?.consequences ?? null,
            }}
            stages={[
              { to: 'look', text: 'Look' },
              { to: 'split', text: 'Split' },
              { to: 'release', text: 'Release' },
            ]}
          />
          <Outlet />
        </DataSetContext>
      )}
    </Answer>
  );
}

function aside(data: Schemas['DataSetDetail']): string {
  const parts = [`version ${data.version}`, counted(data.profile.length, 'column')];
  if (data.roles) parts.push(`target ${data.roles.target}`);
  if (data.roles?.group) parts.push(`groups ${data.roles.group}`);
  return parts.join(' · ');
}
