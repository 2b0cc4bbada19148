import { createContext, useContext, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import {
  counted,
  stepKindOf,
  type GivenColumn,
  type SplitConsequences,
  type Step,
  type StepEffect,
} from '@modest-sieve/core';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Answer } from '../kit/states.js';
import { Strip } from '../kit/strip.js';
import { Title } from '../kit/title.js';

interface DataSetHere {
  readonly dataSet: Schemas['DataSetDetail'];
  /** Shows a split on the strip that is not kept yet; null for the last one kept. */
  readonly draw: (split: SplitConsequences | null) => void;
  /** Shows steps on the strip that are not kept yet; null for those of the version. */
  readonly drawSteps: (tried: TriedSteps | null) => void;
}

interface TriedSteps {
  readonly steps: readonly Step[];
  readonly effects: readonly StepEffect[];
}

const DataSetContext = createContext<DataSetHere | null>(null);

export function useDataSet(): DataSetHere {
  const here = useContext(DataSetContext);
  if (!here) throw new Error('this part stands within a data set');
  return here;
}

/** The columns as the sentences of plans choose among them. */
export const givenColumns = ({ profile }: Schemas['DataSetDetail']): readonly GivenColumn[] =>
  profile.map(({ name, kind, top }) => ({ name, kind, values: top.map(({ value }) => value) }));

/** A data set: its title, the strip, and the desk of the stage that is open. */
export function DataSetPage() {
  const { dataSet: id = '' } = useParams();
  const address = useCourseApi();
  const dataSet = useAnswer<'DataSetDetail'>(address('data-sets', id));
  const [drawn, draw] = useState<SplitConsequences | null>(null);
  const [tried, drawSteps] = useState<TriedSteps | null>(null);
  return (
    <Answer of={dataSet} what="the data set">
      {(data) => (
        <DataSetContext value={{ dataSet: data, draw, drawSteps }}>
          <Title aside={aside(data)}>{data.name}</Title>
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
