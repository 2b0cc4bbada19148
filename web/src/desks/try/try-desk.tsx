import { chakra, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import type { Roles } from '@modest-sieve/core/data';
import { useState } from 'react';
import { Link } from 'react-router';
import { useAnswer, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Answer, Empty } from '../../kit/answer/states.js';
import { TextAction } from '../../kit/form/action.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { useDataSet } from '../use-data-set.js';
import { AlsoShown } from './also-shown-line.js';
import { useAlsoShown } from './also-shown.js';
import { ChosenRun } from './chosen-run.js';
import { Decision } from './decision.js';
import { FamiliesLine } from './compare/families-line.js';
import { RunsLuck } from './compare/runs-luck.js';
import { draftIn, firstDraft, possibleFeatures, tunedDraft, type TrialDraft } from './draft.js';
import { bestFirst, type RunOrder } from './run-order.js';
import { RunsTable } from './runs-table.js';

/** Models fitted and judged over folds that were saved. */
export function TryDesk() {
  const { dataSet } = useDataSet();
  if (!dataSet.roles)
    return (
      <Empty title="First, what is to be predicted?">
        A model needs to know the target. <Link to="../look">Mark it at Look</Link>, then come back.
      </Empty>
    );
  if (dataSet.foldSets.length === 0)
    return (
      <Empty title="Models are judged over folds">
        Each row is predicted by a model that has not seen it.{' '}
        <Link to="../split/folds">Save folds at Split</Link>, best of the training rows of a split, then come
        back and begin with a baseline.
      </Empty>
    );
  return <Desk roles={dataSet.roles} />;
}

function Desk({ roles }: { roles: Roles }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { search, change } = useAddressed();
  const [also, setAlso] = useAlsoShown(roles.task);
  const [order, setOrder] = useState<RunOrder>('run');
  const runs = useAnswer(address('/data-sets/{dataSet}/trials', { dataSet: dataSet.address }));
  const foldSet = dataSet.foldSets.find(({ id }) => id === search.get('folds')) ?? preferred(dataSet);
  // Kept here as well as in the address, which comes back too late while somebody types.
  const [draft, setDraft] = useState(() => draftIn(search.get('trial'), roles.task) ?? firstDraft(roles));
  const here = (runs.data ?? []).filter((run) => run.foldSetId === foldSet?.id);
  const chosen =
    runs.data?.find(({ id }) => id === search.get('run')) ?? here.find(({ state }) => state === 'done');
  const elsewhere = (runs.data ?? []).filter((run) => run.foldSetId !== foldSet?.id);
  const take = (next: TrialDraft) => {
    setDraft(next);
    change({ trial: JSON.stringify(next) });
  };
  if (!foldSet) return null;
  return (
    <TwoPane
      left={
        <Answer of={runs} what="the runs">
          {() => (
            <>
              {here.length === 0 ? (
                <Empty title="Nothing was tried over these folds">
                  Begin with a baseline: what guessing gives is what every model must beat. Then a plain
                  model, then a curve.
                </Empty>
              ) : (
                <RunsTable
                  runs={order === 'best' ? bestFirst(here, draft.metric) : [...here].reverse()}
                  metric={draft.metric}
                  also={also}
                  chosen={chosen?.id ?? null}
                  beside={search.get('beside')}
                  now={dataSet.version}
                  onChoose={(run) => change({ run })}
                />
              )}
              {here.length > 0 ? <AlsoShown task={roles.task} also={also} onChange={setAlso} /> : null}
              {here.length > 2 ? (
                <Text fontSize="13.5px" mt={2}>
                  <TextAction onClick={() => setOrder(order === 'best' ? 'run' : 'best')}>
                    {order === 'best' ? 'In the order in which they were run' : 'The best first'}
                  </TextAction>
                </Text>
              ) : null}
              <RunsLuck runs={here} metric={draft.metric} />
              <FamiliesLine
                runs={here}
                metric={draft.metric}
                folds={foldSet.folds}
                onTune={(kind) => take(tunedDraft(draft, kind))}
              />
              {elsewhere.length > 0 ? (
                <chakra.details
                  mt={3}
                  fontSize="14px"
                  open={chosen !== undefined && elsewhere.includes(chosen)}
                >
                  <chakra.summary cursor="pointer" w="fit-content" color="quiet">
                    {counted(elsewhere.length, 'run')} over other folds or versions: judged on other rows
                  </chakra.summary>
                  <RunsTable
                    runs={[...elsewhere].reverse()}
                    metric={draft.metric}
                    also={also}
                    chosen={chosen?.id ?? null}
                    beside={null}
                    now={dataSet.version}
                    onChoose={(run) => change({ run })}
                  />
                </chakra.details>
              ) : null}
              {chosen ? (
                <ChosenRun
                  key={chosen.id}
                  id={chosen.id}
                  runs={runs.data ?? []}
                  onFeatures={(features) =>
                    take({
                      ...draft,
                      without: possibleFeatures(dataSet, roles).filter((name) => !features.includes(name)),
                    })
                  }
                />
              ) : null}
            </>
          )}
        </Answer>
      }
      right={
        <Decision
          draft={draft}
          roles={roles}
          foldSet={foldSet}
          chosen={chosen ?? null}
          runs={runs.data ?? []}
          onChange={take}
        />
      }
    />
  );
}

/** The folds to begin with: of a split's training rows, so that held-out rows stay unseen. */
const preferred = ({ foldSets }: Schemas['DataSetDetail']) =>
  foldSets.find(({ splitId }) => splitId !== null) ?? foldSets[0];
