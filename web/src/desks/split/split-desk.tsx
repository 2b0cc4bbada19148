import { Box, Flex, Text } from '@chakra-ui/react';
import { LARGEST_SEED, type SplitConsequences } from '@modest-sieve/core';
import { useEffect } from 'react';
import { Link } from 'react-router';
import useSWR from 'swr';
import { ApiProblem, ask, send } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/action.js';
import { CheckList } from '../../kit/checks.js';
import { PartMap } from '../../kit/part-map.js';
import { PlanChoice, PlanNumber, PlanSentence } from '../../kit/plan-sentence.js';
import { Complaint, Empty, Loading } from '../../kit/states.js';
import { Subtitle } from '../../kit/title.js';
import { TwoSides } from '../../kit/two-sides.js';
import { useDoing } from '../../kit/use-doing.js';
import { useDataSet } from '../data-set-page.js';
import { DriftTable, ShareTable } from './evidence.js';
import { withShare } from './shares.js';
import { usePlan } from './use-plan.js';

/** How rows are parted: the plan at the right, what follows from it at the left and below. */
export function SplitDesk() {
  const { dataSet } = useDataSet();
  if (!dataSet.roles) {
    return (
      <Empty title="First, what is to be predicted?">
        A split needs to know the target. <Link to="../look">Mark it at Look</Link>, then come back.
      </Empty>
    );
  }
  return <SplitDeskWithRoles />;
}

function SplitDeskWithRoles() {
  const { dataSet, draw } = useDataSet();
  const address = useCourseApi();
  const { plan, setPlan } = usePlan();
  const doing = useDoing();
  const preview = useSWR<SplitConsequences, ApiProblem>(
    [address('data-sets', dataSet.id, 'split-preview'), JSON.stringify([plan, dataSet.roles])],
    ([url]: [string]) => ask<SplitConsequences>(url, plan),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  useEffect(() => {
    draw(preview.data ?? null);
    return () => draw(null);
  }, [preview.data, draw]);
  const kept = dataSet.splits.find((split) => samePlan(split.plan, plan));
  const columns = dataSet.profile.map((column) => ({ value: column.name, text: column.name }));

  const sentence = (
    <PlanSentence label="Plan of the split">
      Keep <Share plan={plan} part="training" set={setPlan} /> for training,{' '}
      <Share plan={plan} part="validation" set={setPlan} /> for validation and hold{' '}
      <Share plan={plan} part="heldout" set={setPlan} /> out, with equal shares of{' '}
      <PlanChoice
        label="stratify by"
        value={plan.stratify ?? ''}
        choices={[{ value: '', text: 'nothing' }, ...columns]}
        onChange={(value) => setPlan({ ...plan, stratify: value || null })}
      />
      , never parting rows of one{' '}
      <PlanChoice
        label="group by"
        value={plan.group ?? ''}
        choices={[{ value: '', text: 'column: none' }, ...columns]}
        onChange={(value) => setPlan({ ...plan, group: value || null })}
      />
      , seed{' '}
      <PlanNumber
        label="seed"
        value={plan.seed}
        min={0}
        max={LARGEST_SEED}
        step={1}
        onChange={(seed) => setPlan({ ...plan, seed })}
      />
      .
    </PlanSentence>
  );
  return (
    <TwoSides
      left={
        preview.data ? (
          <Evidence split={preview.data} />
        ) : preview.error ? (
          <Text color="quiet">No rows are parted by this plan.</Text>
        ) : (
          <Loading what="the split" />
        )
      }
      right={
        <>
          {sentence}
          <Complaint>{preview.error?.message}</Complaint>
          <Flex gap={3} mt={4} align="center" wrap="wrap">
            <Action
              busy={doing.busy}
              disabled={preview.error !== undefined || kept !== undefined}
              onClick={() => doing.run(() => send('POST', address('data-sets', dataSet.id, 'splits'), plan))}
            >
              Keep this split
            </Action>
            <Action plain onClick={() => setPlan({ ...plan, seed: (plan.seed + 1) % LARGEST_SEED })}>
              Draw another
            </Action>
            {kept ? (
              <Text fontSize="14px" color="quiet" role="status">
                Kept. <Link to="../release">Set an exercise on it</Link>
              </Text>
            ) : null}
          </Flex>
          <Complaint>{doing.problem?.message}</Complaint>
          <Subtitle>What follows from it</Subtitle>
          {preview.data && !preview.error ? (
            <CheckList label="What follows from the split" checks={preview.data.checks} />
          ) : null}
        </>
      }
    />
  );
}

type Plan = ReturnType<typeof usePlan>['plan'];

const samePlan = (a: Plan, b: Plan) =>
  a.seed === b.seed &&
  a.stratify === b.stratify &&
  a.group === b.group &&
  a.shares.training === b.shares.training &&
  a.shares.validation === b.shares.validation;

function Share({ plan, part, set }: { plan: Plan; part: keyof Plan['shares']; set: (plan: Plan) => void }) {
  // What training and the part itself have now is all that can move between them.
  const other = part === 'training' ? plan.shares.heldout : plan.shares.training;
  return (
    <PlanNumber
      label={`share of ${part === 'heldout' ? 'held-out' : part} rows in percent`}
      value={plan.shares[part]}
      unit="%"
      step={1}
      min={part === 'validation' ? 0 : 1}
      max={plan.shares[part] + other - 1}
      onChange={(value) => set({ ...plan, shares: withShare(plan.shares, part, value) })}
    />
  );
}

function Evidence({ split }: { split: SplitConsequences }) {
  const { dataSet } = useDataSet();
  const roles = dataSet.roles;
  const stacks = new Set(split.map.map((cell) => cell.stack));
  const byLabel = [...stacks].every((stack) => split.labels.includes(stack));
  const what = byLabel ? (roles?.target ?? '') : (roles?.group ?? 'group');
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
        <Box flex="1" minW="340px">
          <ShareTable split={split} />
        </Box>
        <Box flex="1" minW="320px">
          <DriftTable split={split} />
        </Box>
      </Flex>
    </Box>
  );
}
