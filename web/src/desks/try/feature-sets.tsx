import { Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import { send, useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { useAction } from '../../kit/form/use-action.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { PlanText } from '../../kit/sentence/plan-text.js';
import { useDataSet } from '../use-data-set.js';
import { planOf, type TrialDraft } from './draft.js';

/** Features that were saved by name: each can be taken up, and the model of the sentence can be run on all of them. */
export function FeatureSets({
  draft,
  possible,
  foldSetId,
  onChange,
}: {
  draft: TrialDraft;
  /** The columns that could be features. */
  possible: readonly string[];
  foldSetId: string;
  onChange: (draft: TrialDraft) => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const [name, setName] = useState('');
  const base = address('/data-sets/{dataSet}/feature-sets', { dataSet: dataSet.address });
  const sets = useAnswer(base).data ?? [];
  const chosen = possible.filter((one) => !draft.without.includes(one) && one !== draft.weight);
  const withOnly = (features: readonly string[]): TrialDraft => ({
    ...draft,
    without: possible.filter((one) => !features.includes(one)),
  });
  const save = () =>
    doing.run(async () => {
      await send('put', base, { name, features: chosen });
      setName('');
    });
  const runAll = () =>
    doing.run(async () => {
      // One after another, so that the table has them in the order in which they stand here.
      for (const { features } of sets) {
        const plan = planOf(withOnly(features), possible);
        if (typeof plan === 'string') return;
        await send('post', address('/data-sets/{dataSet}/trials', { dataSet: dataSet.address }), {
          foldSetId,
          plan,
        });
      }
    });
  return (
    <Flex
      as="section"
      aria-label="Feature sets"
      gap={3}
      mt={1}
      fontSize="13.5px"
      wrap="wrap"
      align="baseline"
    >
      {sets.length > 0 ? <Text color="quiet">Feature sets:</Text> : null}
      {sets.map(({ id, name: own, features }) => (
        <Text as="span" key={id} title={features.join(', ')}>
          <TextAction onClick={() => onChange(withOnly(features))}>{own}</TextAction>{' '}
          {features.every((one) => possible.includes(one)) ? null : (
            <Text as="span" color="unsure">
              (≈ without {features.filter((one) => !possible.includes(one)).join(', ')}, which is no feature
              here){' '}
            </Text>
          )}
          <TextAction
            label={`Delete the feature set ${own}`}
            onClick={() =>
              doing.run(() =>
                send(
                  'delete',
                  address('/data-sets/{dataSet}/feature-sets/{featureSet}', {
                    dataSet: dataSet.address,
                    featureSet: id,
                  }),
                ),
              )
            }
          >
            ×
          </TextAction>
        </Text>
      ))}
      {sets.length > 1 ? <TextAction onClick={runAll}>Run this model on each</TextAction> : null}
      <Text as="span" color="quiet">
        Save {counted(chosen.length, 'feature')} as{' '}
        <PlanText label="name of the feature set" value={name} none="a name" onChange={setName} />
      </Text>
      {name.trim() === '' || chosen.length === 0 ? null : (
        <TextAction onClick={save}>Save the features</TextAction>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Flex>
  );
}
