import { Box, Text } from '@chakra-ui/react';
import { newPlan, type Roles } from '@modest-sieve/core/data';
import { counted } from '@modest-sieve/core/foundation';
import { BASELINES, modelFamilyOf, modelFamiliesFor, type ModelFamily } from '@modest-sieve/core/models';
import { choosingMetrics } from '@modest-sieve/core/evaluation';
import { useState } from 'react';
import type { Schemas } from '../../api/client.js';
import { TextAction } from '../../kit/form/action.js';
import { PlanChoice, PlanNumber, PlanSentence, PlanSeveral } from '../../kit/sentence/plan-sentence.js';
import { SentenceControls } from '../../kit/sentence/sentence.js';
import { givenColumns, useDataSet } from '../use-data-set.js';
import { SCREEN_CHOICES } from './columns/screens.js';
import { foldsText, possibleFeatures, type TrialDraft } from './draft.js';
import { FeatureSets } from './feature-sets.js';
import { modelsTried } from './models-tried.js';
import { VarySentence } from './vary-sentence.js';

/** Of a long sentence the part before its first semicolon, which is what most trials need. */
const inShort = (kind: ModelFamily): ModelFamily => ({
  ...kind,
  sentence: (values) => kind.sentence(values).split(';')[0] ?? '',
});

/** Columns that a screening keeps to begin with. */
const KEPT = 3;

/** What is to be tried, as sentences whose words are controls. */
export function TrialSentence({
  draft,
  roles,
  foldSet,
  runs,
  onChange,
  onFolds,
}: {
  draft: TrialDraft;
  roles: Roles;
  foldSet: Schemas['FoldSetInfo'];
  /** Whose models can be combined. */
  runs: readonly Schemas['TrialInfo'][];
  onChange: (draft: TrialDraft) => void;
  onFolds: (id: string) => void;
}) {
  const { dataSet } = useDataSet();
  const [whole, setWhole] = useState(false);
  const kind = modelFamilyOf(draft.model);
  const features = possibleFeatures(dataSet, roles);
  const tried = modelsTried(runs, foldSet.id, draft.metric, roles.task);
  const isBaseline = BASELINES.includes(kind.key);
  const isLong = kind.sentence(draft.model.values).includes(';');
  const chosen = features.filter((name) => !draft.without.includes(name) && name !== draft.weight);
  const numbers = dataSet.profile.filter((column) => column.kind === 'number').map(({ name }) => name);
  return (
    <>
      <SentenceControls
        kind={isLong && !whole ? inShort(kind) : kind}
        plan={draft.model}
        label="Model"
        given={givenColumns(dataSet)}
        suggested={{ members: tried, model: tried }}
        before={
          <>
            Fit{' '}
            <PlanChoice
              label="model"
              value={draft.model.kind}
              choices={modelFamiliesFor(roles.task).map(({ key, title }) => ({ value: key, text: title }))}
              onChange={(to) =>
                onChange({
                  ...draft,
                  vary: [],
                  search: null,
                  model: newPlan(modelFamilyOf({ kind: to }), []),
                })
              }
            />
            {isBaseline ? (
              ', '
            ) : (
              <>
                {' '}
                from {counted(chosen.length, 'feature')}, leaving out{' '}
                <PlanSeveral
                  label="columns that are left out"
                  values={draft.without}
                  choices={features}
                  none="none"
                  onChange={(without) => onChange({ ...draft, without })}
                />
                , keeping <Kept draft={draft} features={chosen.length} onChange={onChange} />:{' '}
              </>
            )}
          </>
        }
        onChange={(model) => onChange({ ...draft, model })}
      />
      {isLong ? (
        <Text fontSize="13.5px">
          <TextAction onClick={() => setWhole(!whole)}>
            {whole ? 'Fewer settings' : 'All settings of it'}
          </TextAction>
        </Text>
      ) : null}
      {isBaseline ? null : (
        <FeatureSets draft={draft} possible={features} foldSetId={foldSet.id} onChange={onChange} />
      )}
      <VarySentence draft={draft} kind={kind} folds={foldSet.folds * foldSet.repeats} onChange={onChange} />
      <Box mt={2}>
        <PlanSentence label="How it is judged">
          Judge it by{' '}
          <PlanChoice
            label="metric"
            value={draft.metric}
            choices={choosingMetrics(roles.task).map(({ key, name }) => ({ value: key, text: name }))}
            onChange={(metric) => onChange({ ...draft, metric })}
          />{' '}
          over{' '}
          <PlanChoice
            label="folds"
            value={foldSet.id}
            choices={dataSet.foldSets.map((set) => ({ value: set.id, text: foldsText(set) }))}
            onChange={onFolds}
          />
          , each row counting{' '}
          <PlanChoice
            label="weight of a row"
            value={draft.weight}
            choices={[
              { value: '', text: 'alike' },
              ...numbers.map((name) => ({ value: name, text: `as ${name} says` })),
            ]}
            onChange={(weight) => onChange({ ...draft, weight })}
          />
          , seed{' '}
          <PlanNumber
            label="seed"
            value={draft.seed}
            min={0}
            step={1}
            onChange={(seed) => onChange({ ...draft, seed })}
          />
          .
        </PlanSentence>
      </Box>
    </>
  );
}

/** Which of the features a model gets: all, or those that a screening keeps. */
function Kept({
  draft,
  features,
  onChange,
}: {
  draft: TrialDraft;
  features: number;
  onChange: (draft: TrialDraft) => void;
}) {
  const { screening } = draft;
  const keep = screening?.keep ?? Math.min(KEPT, features);
  return (
    <>
      <PlanChoice
        label="screening of the columns"
        value={screening?.by ?? 'none'}
        choices={[
          { value: 'none', text: 'all of them' },
          ...SCREEN_CHOICES.map(({ value, text }) => ({ value, text: `the strongest by ${text}` })),
        ]}
        onChange={(by) => onChange({ ...draft, screening: by === 'none' ? null : { by, keep } })}
      />
      {screening ? (
        <>
          , the first{' '}
          <PlanNumber
            label="columns that the screening keeps"
            value={keep}
            min={1}
            max={features}
            step={1}
            onChange={(to) => onChange({ ...draft, screening: { ...screening, keep: to } })}
          />{' '}
          on the training rows of each fold
        </>
      ) : null}
    </>
  );
}
