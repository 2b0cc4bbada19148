import { Flex, Text } from '@chakra-ui/react';
import type { Roles } from '@modest-sieve/core/data';
import { metricNamed } from '@modest-sieve/core/metrics';
import { BASELINES, modelFamilyOf } from '@modest-sieve/core/models';
import { trialSays, type SearchPlan } from '@modest-sieve/core/evaluation';
import { send, useAnswer, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action, TextAction } from '../../kit/form/action.js';
import { CheckList } from '../../kit/layout/checks.js';
import { Answer } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { useAction } from '../../kit/form/use-action.js';
import { useDataSet } from '../use-data-set.js';
import { draftOf, planOf, possibleFeatures, settingLabels, settingLimits, type TrialDraft } from './draft.js';
import { TrialSentence } from './trial-sentence.js';
import { Reference } from './reference.js';

/** A search of every family where the sentence has none of its own. */
const SEARCH_OF_ALL = { method: 'random', count: 20, minutes: 10 } as const;

/** What is to be tried, and what the chosen run says. */
export function Decision({
  draft,
  roles,
  foldSet,
  chosen,
  runs,
  onChange,
}: {
  draft: TrialDraft;
  roles: Roles;
  foldSet: Schemas['FoldSetInfo'];
  chosen: Schemas['TrialInfo'] | null;
  runs: readonly Schemas['TrialInfo'][];
  onChange: (draft: TrialDraft) => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const { change } = useAddressed();
  const plan = planOf(draft, possibleFeatures(dataSet, roles));
  const run = () =>
    doing.run(async () => {
      if (typeof plan === 'string') return;
      const { id } = await send(
        'post',
        address('/data-sets/{dataSet}/trials', { dataSet: dataSet.address }),
        {
          foldSetId: foldSet.id,
          plan,
        },
      );
      change({ run: id, view: '' });
    });
  const runEvery = (search: SearchPlan | null) =>
    doing.run(async () => {
      if (typeof plan === 'string') return;
      const { features, screening = null, metric, weight, seed } = plan;
      await send('post', address('/data-sets/{dataSet}/trials/families', { dataSet: dataSet.address }), {
        foldSetId: foldSet.id,
        plan: { features, screening, metric, weight, seed, search },
      });
    });
  return (
    <>
      <TrialSentence
        draft={draft}
        roles={roles}
        foldSet={foldSet}
        runs={runs}
        onChange={onChange}
        onFolds={(folds) => change({ folds, run: '', beside: '' })}
      />
      <Flex gap={3} mt={4} align="center" wrap="wrap">
        <Action busy={doing.busy} disabled={typeof plan === 'string'} onClick={run}>
          Run
        </Action>
        <TextAction onClick={() => runEvery(null)}>Run every family at default settings</TextAction>
        <TextAction onClick={() => runEvery(draft.search ?? SEARCH_OF_ALL)}>Search every family</TextAction>
        {foldSet.splitId === null ? (
          <Text fontSize="13px" color="quiet">
            These folds are of all rows: nothing is held out.
          </Text>
        ) : null}
      </Flex>
      <ErrorMessage>{doing.problem?.message ?? (typeof plan === 'string' ? plan : null)}</ErrorMessage>
      {chosen?.state === 'done' ? (
        <WhatItSays
          run={chosen}
          runs={runs}
          metric={draft.metric}
          onTakeUp={() => onChange(draftOf(chosen.plan, possibleFeatures(dataSet, roles)))}
        />
      ) : null}
    </>
  );
}

function WhatItSays({
  run,
  runs,
  metric: key,
  onTakeUp,
}: {
  run: Schemas['TrialInfo'];
  runs: readonly Schemas['TrialInfo'][];
  metric: string;
  onTakeUp: () => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const base = address('/data-sets/{dataSet}/trials/{trial}', { dataSet: dataSet.address, trial: run.id });
  const trial = useAnswer(base);
  const metric = metricNamed(key);
  const sign = metric.better === 'higher' ? 1 : -1;
  const here = runs.filter(({ foldSetId }) => foldSetId === run.foldSetId);
  const [baseline = null] = here
    .filter(({ plan }) => BASELINES.includes(plan.model.kind))
    .flatMap((one) => overFolds(one, key))
    .sort((a, b) => sign * (b.mean - a.mean));
  const kind = modelFamilyOf(run.plan.model);
  return (
    <>
      <Subtitle>What the run shows</Subtitle>
      <Text fontSize="13.5px" color="quiet">
        {kind.title}, {metric.name}. <TextAction onClick={onTakeUp}>Use these settings</TextAction>
      </Text>
      <Answer of={trial} what="the run">
        {({ settings, choices, place, result, luck = null }) => (
          <CheckList
            label="What the run shows"
            checks={trialSays({
              settings,
              choices,
              place,
              metric,
              labels: settingLabels(kind),
              validation: result?.validation?.[key]?.value ?? null,
              limits: settingLimits(kind),
              folds: dataSet.foldSets.find(({ id }) => id === run.foldSetId)?.folds ?? 0,
              tried: here.length,
              baseline,
              majority:
                here
                  .filter(({ plan }) => plan.model.kind === 'most-frequent')
                  .flatMap((one) => overFolds(one, 'accuracy'))[0] ?? null,
              grouping: groupingOf(run, runs, dataSet.foldSets, key),
              search: run.plan.search ? { luck: luck?.[key] ?? null } : null,
              isBaseline: BASELINES.includes(kind.key),
            })}
          />
        )}
      </Answer>
      <Reference run={run} />
    </>
  );
}

/** A metric of a run over its folds; none where it has no mean. */
function overFolds({ result }: Schemas['TrialInfo'], key: string) {
  const { mean = null, folds = [] } = result?.chosen.metrics[key] ?? {};
  return mean === null ? [] : [{ mean, folds }];
}

/** The run and the same one over folds of the same rows, of which one set is random and the other keeps groups whole. */
function groupingOf(
  run: Schemas['TrialInfo'],
  runs: readonly Schemas['TrialInfo'][],
  foldSets: readonly Schemas['FoldSetInfo'][],
  key: string,
) {
  const setOf = ({ foldSetId }: Schemas['TrialInfo']) => foldSets.find(({ id }) => id === foldSetId);
  const groupOf = (one: Schemas['TrialInfo']) => String(setOf(one)?.plan.values['group'] ?? '');
  // A setting that each of them chose for itself may be another one.
  const plan = ({ plan: { model, features, screening = null, weight }, result }: Schemas['TrialInfo']) =>
    JSON.stringify([model, features, screening, weight, result?.chosen.values]);
  const [own, ownGroup] = [setOf(run), groupOf(run)];
  const other = runs.find(
    (one) =>
      plan(one) === plan(run) &&
      setOf(one)?.splitId === own?.splitId &&
      (groupOf(one) === '') !== (ownGroup === '') &&
      overFolds(one, key).length > 0,
  );
  if (!other || !own) return null;
  const [random, grouped] = ownGroup === '' ? [run, other] : [other, run];
  // Folds in the order of time have no groups, and are not random either.
  if (setOf(random)?.plan.kind !== 'draw') return null;
  const figures = (one: Schemas['TrialInfo']) =>
    overFolds(one, key).map((of) => ({ ...of, k: setOf(one)?.folds ?? 0 }))[0];
  const [first, second] = [figures(random), figures(grouped)];
  return first && second ? { column: groupOf(grouped), random: first, grouped: second } : null;
}
