import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { begunPlan, type Roles } from '@modest-sieve/core/data';
import { SPLITTERS, splitterOf, type SplitPlan } from '@modest-sieve/core/splitting';
import { redrawn, type SplitConsequences } from '@modest-sieve/core/audit';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { send, type Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { composerAddress } from '../composer-address.js';
import { Action } from '../../kit/form/action.js';
import { CheckList } from '../../kit/layout/checks.js';
import { PartMap } from '../../kit/plot/part-map.js';
import { PlanChoice } from '../../kit/sentence/plan-sentence.js';
import { usePreview, Waiting } from '../../kit/answer/preview.js';
import { SentenceControls } from '../../kit/sentence/sentence.js';
import { Loading } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Subtitle } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { UndoRedo } from '../../kit/sentence/undo-redo.js';
import { useAction } from '../../kit/form/use-action.js';
import { givenColumns, useDataSet } from '../use-data-set.js';
import { DriftTable, ShareTable } from './evidence.js';
import { LeakWatch } from './leak-watch.js';
import { SeedSensitivityView } from './seed-sensitivity.js';
import { balanced } from './shares.js';
import { TwoPlans } from './two-plans.js';
import { samePlan, turnedInto, useAddressedPlans } from './use-plan.js';

/** How rows are split: the plan at the right, what follows from it at the left and below. */
export function PartsDesk() {
  const { dataSet } = useDataSet();
  return dataSet.roles ? <Parts roles={dataSet.roles} /> : null;
}

function Parts({ roles }: { roles: Roles }) {
  const { dataSet, draw } = useDataSet();
  const { id: courseId } = useCourse();
  const address = useCourseApi();
  const { planOf, setPlans, undo, redo } = useAddressedPlans(['plan', 'beside'], SPLITTERS);
  const aside = planOf('beside');
  const setPlan = (next: SplitPlan, what: string | null = null) => setPlans({ plan: next }, what);
  const doing = useAction();
  const begun = (kind: string) => begunPlan(splitterOf({ kind }), dataSet.profile, roles);
  const plan: SplitPlan =
    planOf('plan') ??
    dataSet.splits[0]?.plan ??
    begun(dataSet.reserve ? 'reserve' : roles.time === null ? 'draw' : 'time');
  const kind = splitterOf(plan);
  const preview = usePreview(
    address('/data-sets/{dataSet}/split-preview', { dataSet: dataSet.address }),
    plan,
    [dataSet.roles, dataSet.version],
  );
  useEffect(() => {
    draw(preview.data ?? null);
    return () => draw(null);
  }, [preview.data, draw]);
  const kinds = SPLITTERS.filter(({ holdsOut }) => holdsOut === 'plan' || dataSet.reserve !== null);
  const saved = dataSet.splits.find((split) => samePlan(SPLITTERS, split.plan, plan));
  return (
    <TwoPane
      left={
        preview.data ? (
          <>
            {aside ? <TwoPlans plan={plan} now={preview.data} aside={aside} setPlans={setPlans} /> : null}
            <Evidence split={preview.data} plan={plan} />
          </>
        ) : preview.error ? (
          <Text color="quiet" mt={4}>
            No rows are split by this plan.
          </Text>
        ) : (
          <Loading what="the split" />
        )
      }
      right={
        <>
          <SentenceControls
            kind={kind}
            plan={plan}
            label="Plan of the split"
            given={givenColumns(dataSet)}
            before={
              <>
                Split the rows{' '}
                <PlanChoice
                  label="way of splitting"
                  value={plan.kind}
                  choices={kinds.map(({ key, title }) => ({ value: key, text: title }))}
                  onChange={(to) => setPlan(turnedInto(begun(to), plan))}
                />
                .{' '}
              </>
            }
            onChange={(next, key) => setPlan(balanced(next, key), key)}
          />
          {dataSet.reserve ? <ReserveNote reserve={dataSet.reserve} /> : null}
          <ErrorMessage>{preview.error?.message}</ErrorMessage>
          <Waiting of={preview} what="Splitting the rows" />
          <Flex gap={3} mt={4} align="center" wrap="wrap">
            <Action
              busy={doing.busy}
              disabled={preview.error !== undefined || saved !== undefined}
              onClick={() =>
                doing.run(() =>
                  send('post', address('/data-sets/{dataSet}/splits', { dataSet: dataSet.address }), plan),
                )
              }
            >
              Save this split
            </Action>
            {kind.isRandom ? (
              <Action plain onClick={() => setPlan(redrawn(plan, 1))}>
                Another seed
              </Action>
            ) : null}
            {aside ? null : (
              <Action plain onClick={() => setPlans({ beside: plan })}>
                Compare with another plan
              </Action>
            )}
            <UndoRedo undo={undo} redo={redo} />
            {saved ? (
              <Text fontSize="14px" color="quiet" role="status">
                Saved.{' '}
                <Link to={composerAddress(courseId, dataSet.address, saved.id)}>Set an exercise on it</Link>
              </Text>
            ) : null}
          </Flex>
          <ErrorMessage>{doing.problem?.message}</ErrorMessage>
          <Subtitle>What follows from it</Subtitle>
          {preview.data && !preview.error ? (
            <CheckList label="What follows from the split" checks={preview.data.checks} />
          ) : null}
          <LeakWatch />
          {kind.isRandom ? <SeedSensitivityView plan={plan} /> : null}
        </>
      }
    />
  );
}

/** What exercises on the data set hold out for good, and what that means for another split. */
function ReserveNote({ reserve }: { reserve: Schemas['ReserveInfo'] }) {
  const [first = '', ...others] = reserve.releases;
  return (
    <Text mt={3} fontSize="14px" color="quiet" role="note">
      <b>{counted(reserve.rows, 'row is', 'rows are')} the reserve of this data set:</b> “{first}”
      {others.length > 0 ? ` and ${counted(others.length, 'later exercise')}` : ''} held them out. No pack may
      give their target. {reserve.feedback} of them are feedback rows and {reserve.final} final rows, in every
      exercise. A later exercise holds the same rows out, or rows that were never given to students.
    </Text>
  );
}

function Evidence({ split, plan }: { split: SplitConsequences; plan: SplitPlan }) {
  const { dataSet } = useDataSet();
  const { roles } = dataSet;
  const stacks = new Set(split.map.map((cell) => cell.stack));
  const byLabel = [...stacks].every((stack) => split.labels.includes(stack));
  const group = plan.values['group'];
  const what = byLabel
    ? (roles?.target ?? '')
    : (((typeof group === 'string' && group) || roles?.group) ?? 'group');
  return (
    <Box>
      <Subtitle>Where each row goes</Subtitle>
      <Text fontSize="13.5px" color="quiet" mb={2}>
        One column for each {what}, one tile for each row
        {roles?.positive && !byLabel
          ? `; filled: ${roles.target} is ${roles.positive}, open: it is not.`
          : '.'}
      </Text>
      <PartMap map={split.map} positive={byLabel ? null : (roles?.positive ?? null)} what={what} />
      <Flex gap={8} wrap="wrap">
        <Box flex="1" minW={split.labels.length > 2 ? '440px' : '340px'}>
          <ShareTable split={split} />
        </Box>
        <Box flex="1" minW="min(100%, 400px)">
          <DriftTable split={split} />
        </Box>
      </Flex>
    </Box>
  );
}
