import { Box, Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { newPlan, STEP_KINDS, type PreparePreview, type Step } from '@modest-sieve/core/data';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { send } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action, TextAction } from '../../kit/form/action.js';
import { usePreview, Waiting } from '../../kit/answer/preview.js';
import { Loading } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Select } from '../../kit/form/select.js';
import { Subtitle } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { UndoRedo } from '../../kit/sentence/undo-redo.js';
import { useAction } from '../../kit/form/use-action.js';
import { useDataSet } from '../use-data-set.js';
import { AnotherFile } from './another-file.js';
import { Examples } from './examples.js';
import { StepList } from './step-list.js';
import { useSteps } from './use-steps.js';
import { Versions } from './versions.js';

/** Steps that make the raw table fit to teach with: sentences in order, and what each does to the rows. */
export function PrepareDesk() {
  const { dataSet, drawSteps } = useDataSet();
  const address = useCourseApi();
  const editing = useSteps();
  const { steps, chosen, isSaved } = editing;
  const preview = usePreview(
    address('/data-sets/{dataSet}/prepare-preview', { dataSet: dataSet.address }),
    { steps, chosen },
    dataSet.raw,
  );
  const { data } = preview;
  useEffect(() => {
    const fits = data && data.effects.length === steps.length && !isSaved;
    drawSteps(fits ? { steps, effects: data.effects } : null);
    return () => drawSteps(null);
  }, [data, steps, isSaved, drawSteps]);
  return (
    <>
      <TwoPane
        left={
          <>
            <Evidence steps={steps} chosen={chosen} preview={data} />
            <Versions />
            {dataSet.version === dataSet.current ? <AnotherFile /> : null}
          </>
        }
        right={
          <>
            <Subtitle>Steps</Subtitle>
            {steps.length === 0 ? (
              <Text color="quiet">
                No step yet: the table is as it came. Add the first one; nothing is lost by trying.
              </Text>
            ) : (
              <StepList editing={editing} effects={data?.effects ?? []} given={data?.given ?? []} />
            )}
            <AddStep editing={editing} columns={data?.columns ?? dataSet.profile} />
            <ErrorMessage>{preview.error?.message}</ErrorMessage>
            <Waiting of={preview} what="Doing the steps" />
            <KeepVersion editing={editing} preview={data} />
          </>
        }
      />
    </>
  );
}

function Evidence({
  steps,
  chosen,
  preview,
}: {
  steps: readonly Step[];
  chosen: number | null;
  preview: PreparePreview | undefined;
}) {
  const { dataSet } = useDataSet();
  if (!preview) return <Loading what="what the steps do" />;
  const fallen = dataSet.raw.rows - preview.rows;
  return (
    <>
      <Subtitle>{chosen === null ? 'After all steps' : `Step ${chosen + 1}, before and after`}</Subtitle>
      <Text color="quiet" fontSize="14px" mb={2}>
        {counted(dataSet.raw.rows, 'row')} came; after {counted(steps.length, 'step')} {count(preview.rows)}{' '}
        {preview.rows === 1 ? 'is' : 'are'} left
        {fallen > 0 ? `, ${count(fallen)} fell out` : ''}, with {counted(preview.columns.length, 'column')}.
      </Text>
      {preview.examples ? (
        <Examples examples={preview.examples} />
      ) : (
        <Text fontSize="14px">
          {chosen === null
            ? steps.length > 0
              ? 'Choose a step to see what it does to the rows.'
              : null
            : 'This step is not done, so there is nothing to compare.'}
        </Text>
      )}
      {chosen === null ? (
        <Flex wrap="wrap" gap={3} mt={3} fontSize="14px">
          {preview.columns.map(({ name, kind }) => (
            <Text as="span" key={name}>
              <b>{name}</b>{' '}
              <Text as="span" color="quiet">
                {kind}
              </Text>
            </Text>
          ))}
        </Flex>
      ) : null}
      <Lesson preview={preview} />
    </>
  );
}

/** Why it matters where a step learns. */
function Lesson({ preview }: { preview: PreparePreview }) {
  if (!preview.effects.some((effect) => effect.learns)) return null;
  return (
    <Text mt={4} fontSize="14px" maxW="72ch">
      Steps that are fitted, such as filling with a median, use <b>all rows</b> here, those that are held out
      later among them. For most exercises that is harmless and simple. For an exercise about leaks it is the
      point: a model that is judged fairly must fit such steps to its training rows alone.
    </Text>
  );
}

function AddStep({
  editing,
  columns,
}: {
  editing: ReturnType<typeof useSteps>;
  columns: Parameters<typeof newPlan>[1];
}) {
  const { steps, chosen, change } = editing;
  const add = (key: string) => {
    const kind = STEP_KINDS.find((one) => one.key === key);
    if (!kind) return;
    const place = chosen === null ? steps.length : chosen + 1;
    change(steps.toSpliced(place, 0, newPlan(kind, columns)), place);
  };
  return (
    <Select
      label={chosen === null ? 'Add a step' : `Add a step after step ${chosen + 1}`}
      value=""
      choices={[
        { value: '', text: 'which one?' },
        ...STEP_KINDS.map(({ key, title }) => ({ value: key, text: title })),
      ]}
      onChange={add}
    />
  );
}

function KeepVersion({
  editing,
  preview,
}: {
  editing: ReturnType<typeof useSteps>;
  preview: PreparePreview | undefined;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const { steps, undo, redo, revert, isSaved } = editing;
  const { preparation } = dataSet;
  const misfits = preview?.effects.filter((effect) => effect.problem !== null).length ?? 0;
  const isMade = preparation?.state === 'waiting';
  return (
    <Box mt={4}>
      <Flex gap={4} align="center" wrap="wrap">
        <Action
          busy={doing.busy || isMade}
          disabled={isSaved || steps.length === 0 || misfits > 0 || preview === undefined}
          onClick={() =>
            doing.run(() =>
              send('post', address('/data-sets/{dataSet}/versions', { dataSet: dataSet.address }), { steps }),
            )
          }
        >
          Save as a version
        </Action>
        <UndoRedo undo={undo} redo={redo} />
        {revert && dataSet.versions.some(({ from }) => from !== null) ? (
          <TextAction onClick={revert}>Back to the saved steps</TextAction>
        ) : null}
      </Flex>
      <Text mt={2} fontSize="14px" color="quiet" role="status">
        {isMade ? (
          'The version is being made …'
        ) : isSaved ? (
          <>
            Saved as version {dataSet.version}. <Link to="../split">Split the rows</Link>
          </>
        ) : misfits > 0 ? (
          `${counted(misfits, 'step does', 'steps do')} not fit. Change, switch off or remove ${misfits === 1 ? 'it' : 'them'}, then save the version.`
        ) : steps.length > 0 ? (
          'Not saved yet; it stays in this browser until you do.'
        ) : null}
      </Text>
      <ErrorMessage>
        {doing.problem?.message ??
          (preparation?.state === 'failed' ? preparation.problem?.message : undefined)}
      </ErrorMessage>
    </Box>
  );
}
