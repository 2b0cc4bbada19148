import type { GivenColumn, Step, StepEffect } from '@modest-sieve/core/data';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { createContext, useContext } from 'react';
import type { Schemas } from '../api/client.js';

interface DataSetHere {
  readonly dataSet: Schemas['DataSetDetail'];
  /** Shows a split on the strip that is not saved yet; null for the last one saved. */
  readonly draw: (split: SplitConsequences | null) => void;
  /** Shows steps on the strip that are not saved yet; null for those of the version. */
  readonly drawSteps: (tried: TriedSteps | null) => void;
}

export interface TriedSteps {
  readonly steps: readonly Step[];
  readonly effects: readonly StepEffect[];
}

/** The data set that the page is about. */
export const DataSetContext = createContext<DataSetHere | null>(null);

export function useDataSet(): DataSetHere {
  const here = useContext(DataSetContext);
  if (!here) throw new Error('this part needs a data set around it');
  return here;
}

/** The columns as the sentences of plans choose among them. */
export const givenColumns = ({ profile }: Schemas['DataSetDetail']): readonly GivenColumn[] =>
  profile.map(({ name, kind, top }) => ({ name, kind, values: top.map(({ value }) => value) }));
