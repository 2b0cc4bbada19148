import { Box, Text } from '@chakra-ui/react';
import { type Schemas } from '../../api/client.js';
import { useCourse } from '../../api/course.js';
import { foldsName } from '../../desks/names.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { type Data, type Settings } from '../common/settings.js';

export interface SheetProps {
  readonly start: Settings;
  readonly data: Data;
  readonly foldSets: Schemas['DataSetDetail']['foldSets'];
  readonly exercise?: Schemas['ExerciseDetail'];
}

/** What goes into the pack beside the rows, and how these are named. */
export function PackSentence({
  settings,
  known,
  foldSets,
  onChange,
}: {
  settings: Settings;
  known: Data['known'];
  foldSets: SheetProps['foldSets'];
  onChange: (settings: Settings) => void;
}) {
  const { timeZone } = useCourse();
  const { splitId, foldSetId } = settings;
  const ours = foldSets.filter((set) => set.splitId === splitId);
  const choices = ours.map((set) => ({ value: set.id, text: foldsName(set, timeZone) }));
  const isKnown = foldSetId === null || ours.some(({ id }) => id === foldSetId);
  return (
    <Box mt={5}>
      <PlanSentence label="What else the pack holds">
        {ours.length === 0 && foldSetId === null ? (
          'Rows are named'
        ) : (
          <>
            Beside the rows the pack holds{' '}
            <PlanChoice
              label="folds in the pack"
              value={foldSetId ?? ''}
              choices={[
                { value: '', text: 'no folds' },
                ...(isKnown ? [] : [{ value: foldSetId, text: 'folds of an earlier version' }]),
                ...choices,
              ]}
              onChange={(value) => onChange({ ...settings, foldSetId: value || null })}
            />
            ; rows are named
          </>
        )}{' '}
        <PlanChoice
          label="identifiers in the pack"
          value={settings.reissued ? 'lot' : 'own'}
          choices={[
            { value: 'own', text: 'by their own identifiers' },
            { value: 'lot', text: 'by random numbers' },
          ]}
          onChange={(value) => onChange({ ...settings, reissued: value === 'lot' })}
        />
        .
      </PlanSentence>
      {known === null ? null : (
        <Text mt={2} fontSize="13.5px" role="note">
          <b>Students may find the answers elsewhere.</b> The table has the shape of the open data set “
          {known}”.
          {settings.reissued ? '' : ' Name rows by random numbers;'} add a little noise to its numbers at
          Prepare; or add rows of your own below it there, and hold these out by the order of the rows.
        </Text>
      )}
    </Box>
  );
}
