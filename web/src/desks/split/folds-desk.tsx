import { Box, Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { begunPlan, type Roles } from '@modest-sieve/core/data';
import { FOLD_SPLITTERS, foldSplitterOf, type FoldSentence } from '@modest-sieve/core/splitting';
import { redrawn, type FoldConsequences } from '@modest-sieve/core/audit';
import { send, type Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/form/action.js';
import { CheckList } from '../../kit/layout/checks.js';
import { momentText } from '../../kit/table/format.js';
import { PlanChoice } from '../../kit/sentence/plan-sentence.js';
import { usePreview, Waiting } from '../../kit/answer/preview.js';
import { SentenceControls, SentenceText } from '../../kit/sentence/sentence.js';
import { Loading } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { UndoRedo } from '../../kit/sentence/undo-redo.js';
import { useAction } from '../../kit/form/use-action.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { givenColumns, useDataSet } from '../use-data-set.js';
import { Removing } from '../../kit/form/removing.js';
import { Renaming } from '../../kit/form/renaming.js';
import { foldsName, splitName } from '../names.js';
import { FoldMap, FoldTable } from './fold-map.js';
import { samePlan, turnedInto, useAddressedPlans } from './use-plan.js';

/** How rows are dealt into folds: all of them, or those that a split trains on. */
export function FoldsDesk() {
  const { dataSet } = useDataSet();
  return dataSet.roles ? <FoldsPage roles={dataSet.roles} /> : null;
}

function FoldsPage({ roles }: { roles: Roles }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { timeZone } = useCourse();
  const doing = useAction();
  const { planOf, setPlans, undo, redo } = useAddressedPlans(['plan'], FOLD_SPLITTERS);
  const setPlan = (next: FoldSentence, what: string | null = null) => setPlans({ plan: next }, what);
  const { search, change } = useAddressed();
  const begun = (kind: string) => begunPlan(foldSplitterOf({ kind }), dataSet.profile, roles);
  const plan = planOf('plan') ?? begun(roles.time === null ? 'draw' : 'expanding');
  const asked = search.get('of') ?? dataSet.splits[0]?.id ?? '';
  const splitId = dataSet.splits.some(({ id }) => id === asked) ? asked : null;
  const request = { plan, splitId };
  const preview = usePreview(
    address('/data-sets/{dataSet}/fold-preview', { dataSet: dataSet.address }),
    request,
    [roles, dataSet.version],
  );
  const saved = dataSet.foldSets.find(
    (set) => set.splitId === splitId && samePlan(FOLD_SPLITTERS, set.plan, plan),
  );
  return (
    <TwoPane
      left={
        preview.data ? (
          <Evidence folds={preview.data} />
        ) : preview.error ? (
          <Text color="quiet" mt={4}>
            No folds are made by this plan.
          </Text>
        ) : (
          <Loading what="the folds" />
        )
      }
      right={
        <>
          <SentenceControls
            kind={foldSplitterOf(plan)}
            plan={plan}
            label="Plan of the folds"
            given={givenColumns(dataSet)}
            before={
              <>
                Make folds of{' '}
                <PlanChoice
                  label="rows that are assigned"
                  value={splitId ?? ''}
                  choices={[
                    ...dataSet.splits.map((split) => ({
                      value: split.id,
                      text: `training rows of ${splitName(split, timeZone)}`,
                    })),
                    { value: '', text: 'all rows' },
                  ]}
                  onChange={(of) => change({ of: of || 'all' })}
                />
                ,{' '}
                <PlanChoice
                  label="way of making folds"
                  value={plan.kind}
                  choices={FOLD_SPLITTERS.map(({ key, title }) => ({ value: key, text: title }))}
                  onChange={(to) => setPlan(turnedInto(begun(to), plan))}
                />
                .{' '}
              </>
            }
            onChange={setPlan}
          />
          <ErrorMessage>{preview.error?.message}</ErrorMessage>
          <Waiting of={preview} what="Making the folds" />
          <Flex gap={3} mt={4} align="center" wrap="wrap">
            <Action
              busy={doing.busy}
              disabled={preview.error !== undefined || saved !== undefined}
              onClick={() =>
                doing.run(() =>
                  send(
                    'post',
                    address('/data-sets/{dataSet}/fold-sets', { dataSet: dataSet.address }),
                    request,
                  ),
                )
              }
            >
              Save these folds
            </Action>
            {plan.values['seed'] !== undefined ? (
              <Action plain onClick={() => setPlan(redrawn(plan, 1))}>
                Another seed
              </Action>
            ) : null}
            <UndoRedo undo={undo} redo={redo} />
            {saved ? (
              <Text fontSize="14px" color="quiet" role="status">
                Saved.
              </Text>
            ) : null}
          </Flex>
          <ErrorMessage>{doing.problem?.message}</ErrorMessage>
          <Subtitle>What follows from it</Subtitle>
          {preview.data && !preview.error ? (
            <CheckList label="What follows from the folds" checks={preview.data.checks} />
          ) : null}
          <SavedFolds sets={dataSet.foldSets} />
        </>
      }
    />
  );
}

function Evidence({ folds }: { folds: FoldConsequences }) {
  const sizes =
    folds.smallest === folds.largest
      ? `${count(folds.smallest)} tested in each`
      : `${count(folds.smallest)} to ${count(folds.largest)} tested in each`;
  return (
    <Box>
      <Subtitle>Which rows each fold tests</Subtitle>
      <Text fontSize="13.5px" color="quiet" mb={2}>
        {counted(folds.rows, 'row')} in {counted(folds.count, 'fold')}
        {folds.repeats > 1 ? `, ${count(folds.repeats)} times over; the first time is shown` : ''}: {sizes}.
        {folds.count > folds.folds.length ? ` The first ${folds.folds.length} folds are shown.` : ''}
      </Text>
      <FoldMap folds={folds} />
      <FoldTable folds={folds} />
    </Box>
  );
}

function SavedFolds({ sets }: { sets: Schemas['DataSetDetail']['foldSets'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { timeZone } = useCourse();
  if (sets.length === 0) return null;
  return (
    <>
      <Subtitle>Saved folds</Subtitle>
      <Ruled label="Saved folds" headings={[{ text: 'saved' }, { text: 'plan' }, { text: 'change' }]}>
        {sets.map((set) => (
          <tr key={set.id}>
            <Cell nowrap>{momentText(set.createdAt, timeZone)}</Cell>
            <Cell>
              {set.name === '' ? null : <b>{set.name}: </b>}
              <SentenceText kind={foldSplitterOf(set.plan)} plan={set.plan} />{' '}
              {set.splitId === null ? 'All rows.' : 'Training rows of a split.'}
            </Cell>
            <Cell>
              <Flex gap={3} wrap="wrap">
                <a
                  href={address('/data-sets/{dataSet}/fold-sets/{foldSet}', {
                    dataSet: dataSet.address,
                    foldSet: set.id,
                  })}
                  download
                >
                  CSV
                </a>
                <Renaming
                  name={set.name}
                  what={foldsName(set, timeZone)}
                  url={address('/data-sets/{dataSet}/fold-sets/{foldSet}', {
                    dataSet: dataSet.address,
                    foldSet: set.id,
                  })}
                />
                <Removing
                  what="the folds"
                  name={foldsName(set, timeZone)}
                  own="folds"
                  removal={set.removal}
                  url={address('/data-sets/{dataSet}/fold-sets/{foldSet}', {
                    dataSet: dataSet.address,
                    foldSet: set.id,
                  })}
                />
              </Flex>
            </Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
