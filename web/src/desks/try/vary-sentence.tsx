import { Box, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import type { ModelFamily } from '@modest-sieve/core/models';
import {
  fitsOf,
  halvingRounds,
  MOST_MINUTES,
  MOST_SEARCHED,
  MOST_SETTINGS,
  TRAINING_SHARE,
  type SearchPlan,
} from '@modest-sieve/core/evaluation';
import { TextAction } from '../../kit/form/action.js';
import { PlanChoice, PlanNumber, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { PlanText } from '../../kit/sentence/plan-text.js';
import { curvesOf, type TrialDraft } from './draft.js';
import { settingsTried } from './settings-tried.js';
import { rangeIn, settingsIn } from './typed-values.js';

const SEARCH_BEGUN = { count: 30, minutes: 5 };

/** Settings that are varied: none, one for a curve, two for a grid, more for a search. */
export function VarySentence({
  draft,
  kind,
  folds,
  onChange,
}: {
  draft: TrialDraft;
  kind: ModelFamily;
  /** In all repeats. */
  folds: number;
  onChange: (draft: TrialDraft) => void;
}) {
  const { vary, search } = draft;
  const curves = curvesOf(kind).filter(({ key }) => !search || key !== TRAINING_SHARE);
  const set = (place: number, to: { key: string; text: string } | null) => {
    const next = to
      ? [...vary.slice(0, place), to, ...vary.slice(place + 1)]
      : vary.filter((_, i) => i !== place);
    onChange({ ...draft, vary: next, search: next.length > 0 ? search : null });
  };
  const searchBy = (method: SearchPlan['method'] | 'all') =>
    onChange(
      method === 'all'
        ? { ...draft, search: null, vary: vary.slice(0, 2) }
        : {
            ...draft,
            search: { ...SEARCH_BEGUN, ...search, method },
            vary: vary.filter(({ key }) => key !== TRAINING_SHARE),
          },
    );
  const places = Math.min(search ? MOST_SEARCHED : 2, vary.length + 1, curves.length);
  const settings = vary.length === 0 ? null : settingsTried(vary, kind);
  const isOfShares = vary.length === 1 && vary[0]?.key === TRAINING_SHARE;
  return (
    <Box mt={2}>
      <PlanSentence label="What is varied">
        {Array.from({ length: places }, (_, place) => (
          <One
            key={place}
            place={place}
            own={vary[place] ?? null}
            choices={curves.filter(({ key }) => !vary.some((one, i) => i !== place && one.key === key))}
            isRange={search !== null}
            onChange={(to) => set(place, to)}
          />
        ))}
        {vary.length > 0 && !isOfShares ? (
          <>
            , trying{' '}
            <PlanChoice
              label="how values are tried"
              value={search?.method ?? 'all'}
              choices={[
                { value: 'all', text: vary.length > 1 ? 'every pair' : 'every value' },
                { value: 'random', text: 'settings drawn at random' },
                { value: 'halving', text: 'many drawn settings on few rows, the best third on more' },
              ]}
              onChange={searchBy}
            />
          </>
        ) : null}
        {search ? (
          <>
            :{' '}
            <PlanNumber
              label="settings that are drawn"
              value={search.count}
              min={2}
              max={MOST_SETTINGS}
              step={1}
              onChange={(to) => onChange({ ...draft, search: { ...search, count: to } })}
            />{' '}
            of them, in at most{' '}
            <PlanNumber
              label="minutes of the search"
              value={search.minutes}
              min={0.1}
              max={MOST_MINUTES}
              onChange={(minutes) => onChange({ ...draft, search: { ...search, minutes } })}
            />{' '}
            minutes
          </>
        ) : null}
        {vary.length > 0 ? (
          <>
            , and keep{' '}
            <PlanChoice
              label="setting that is used"
              value={draft.choose}
              choices={[
                { value: 'simplest', text: 'the simplest within one standard error' },
                { value: 'best', text: 'the best' },
              ]}
              onChange={(choose) => onChange({ ...draft, choose })}
            />
          </>
        ) : null}
        .
      </PlanSentence>
      {search === null && settings !== null ? (
        <Text fontSize="13px" color="quiet" data-fits>
          {counted(settings, 'setting')} over {counted(folds, 'fold')}: {counted(settings * folds, 'fit')}
          {settings > MOST_SETTINGS ? `. At most ${MOST_SETTINGS} settings are taken.` : '.'}
        </Text>
      ) : null}
      {search ? (
        <Text fontSize="13px" color="quiet" data-fits>
          At most {count(fitsIn(search, folds))} fits to folds. The first setting is that of the sentence
          above.{' '}
          {places > vary.length ? (
            <TextAction
              onClick={() =>
                onChange({
                  ...draft,
                  vary: curves
                    .slice(0, MOST_SEARCHED)
                    .map(({ key }) => vary.find((one) => one.key === key) ?? { key, text: '' }),
                })
              }
            >
              Vary every setting
            </TextAction>
          ) : null}
        </Text>
      ) : null}
    </Box>
  );
}

/** Rounds as on a table of many rows: on a smaller one there are fewer. */
const fitsIn = ({ method, count: settings }: SearchPlan, folds: number): number =>
  method === 'random' ? settings * folds : fitsOf(halvingRounds(settings, Infinity), folds);

/** One varied setting, and over which values. */
function One({
  place,
  own,
  choices,
  isRange,
  onChange,
}: {
  place: number;
  own: { readonly key: string; readonly text: string } | null;
  choices: readonly { readonly key: string; readonly label: string }[];
  isRange: boolean;
  onChange: (to: { key: string; text: string } | null) => void;
}) {
  const wrong = own ? (isRange ? rangeIn(own.text) : settingsIn(own.text)) : [];
  const ordinal = ['', 'second ', 'third ', 'fourth ', 'fifth ', 'sixth '][place] ?? '';
  return (
    <>
      {place === 0 ? 'Vary ' : ' and '}
      <PlanChoice
        label={`${ordinal}varied setting`}
        value={own?.key ?? ''}
        choices={[
          { value: '', text: place === 0 ? 'nothing' : 'nothing else' },
          ...choices.map(({ key, label }) => ({ value: key, text: label })),
        ]}
        onChange={(key) => onChange(key === '' ? null : { key, text: '' })}
      />
      {own ? (
        <>
          {isRange ? ' from ' : ' over '}
          <PlanText
            label={`${ordinal}values that are tried`}
            value={own.text}
            none={isRange ? 'the suggested range' : 'the suggested values'}
            onChange={(text) => onChange({ ...own, text })}
          />
          {typeof wrong === 'string' ? (
            <Text as="span" role="alert" fontFamily="body" fontSize="13px" color="fails">
              {' '}
              ({wrong})
            </Text>
          ) : null}
        </>
      ) : null}
    </>
  );
}
