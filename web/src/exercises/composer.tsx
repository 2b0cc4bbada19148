import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { counted, metricNamed } from '@modest-sieve/core';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action } from '../kit/action.js';
import { TwiceAction } from '../kit/twice-action.js';
import { momentText } from '../kit/format.js';
import { PlanChoice, PlanSentence } from '../kit/plan-sentence.js';
import { Brief } from '../kit/markdown.js';
import { Answer, Complaint, Empty } from '../kit/states.js';
import { Subtitle } from '../kit/title.js';
import { TwoSides } from '../kit/two-sides.js';
import { useDoing } from '../kit/use-doing.js';
import { MarkingSentences } from './marking-sentences.js';
import { firstSettings, type Settings } from './settings.js';
import { useKept } from './use-kept.js';

/** A new exercise on the split that the address names. */
export function Composer() {
  const [search] = useSearchParams();
  const address = useCourseApi();
  const { id, timeZone } = useCourse();
  const dataSetId = search.get('dataSet');
  const dataSet = useAnswer<'DataSetDetail'>(dataSetId === null ? null : address('data-sets', dataSetId));
  if (dataSetId === null) {
    return (
      <Empty title="An exercise begins with a split">
        <Link to={`/courses/${id}/data`}>Choose a data set</Link>, keep a split at its Split desk, and set an
        exercise on it at Release.
      </Empty>
    );
  }
  return (
    <Answer of={dataSet} what="the data set">
      {(data) => {
        const split = data.splits.find((s) => s.id === search.get('split'));
        if (!split || !data.roles)
          return <Empty title="This split is not known">It may belong to another data set.</Empty>;
        const { target, task } = data.roles;
        const sd = data.profile.find((column) => column.name === target)?.summary?.sd ?? 1;
        return (
          <Sheet
            start={firstSettings(split.id, task, target, sd, timeZone)}
            task={task}
            target={target}
            sd={sd}
            about={data.name}
            foldSets={data.foldSets}
          />
        );
      }}
    </Answer>
  );
}

/** A draft that was saved. */
export function DraftComposer({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const dataSet = useAnswer<'DataSetDetail'>(
    exercise.dataSet ? address('data-sets', exercise.dataSet.id) : null,
  );
  const { splitId, foldSetId, title, brief, metric, scheme, attempts, counts, deadline, feedback } = exercise;
  const [start] = useState<Settings>({
    splitId,
    foldSetId,
    title,
    brief,
    metric,
    scheme,
    attempts,
    counts,
    deadline,
    feedback,
  });
  const sd = dataSet.data?.profile.find((column) => column.name === exercise.target)?.summary?.sd ?? 1;
  return (
    <Sheet
      key={exercise.id}
      start={start}
      task={exercise.task}
      target={exercise.target}
      sd={sd}
      about={exercise.dataSet?.name ?? ''}
      foldSets={dataSet.data?.foldSets ?? []}
      exercise={exercise}
    />
  );
}

/** What a file gives for each row, by what the metric needs. */
const ANSWERS = { labels: 'labels', probabilities: 'probabilities', numbers: 'numbers' } as const;

interface SheetProps {
  readonly start: Settings;
  readonly task: Schemas['Task'];
  readonly target: string;
  readonly sd: number;
  readonly about: string;
  readonly foldSets: Schemas['DataSetDetail']['foldSets'];
  readonly exercise?: Schemas['ExerciseDetail'];
}

/** The sheet as students will see it, edited in place, with key and marks beside it. */
function Sheet({ start, task, target, sd, about, foldSets, exercise }: SheetProps) {
  const address = useCourseApi();
  const { id: courseId } = useCourse();
  const navigate = useNavigate();
  const doing = useDoing();
  const [settings, setSettings, letGo] = useKept(`composer ${exercise?.id ?? start.splitId}`, start);
  const packing = exercise?.state === 'packing';

  const save = async (): Promise<string> => {
    if (exercise) {
      await send('PUT', address('exercises', exercise.id), settings);
      letGo();
      return exercise.id;
    }
    const { id } = await send<Schemas['Created']>('POST', address('exercises'), settings);
    letGo();
    return id;
  };
  const open = (id: string) => navigate(`/courses/${courseId}/exercises/${id}`, { replace: true });
  const release = async () => {
    const id = await save();
    await open(id);
    await send('POST', address('exercises', id, 'release'));
  };

  return (
    <TwoSides
      left={
        <>
          <Text pt={4} fontSize="13.5px" color="quiet">
            {packing ? 'being released' : exercise ? 'draft' : 'new'} · {about}
          </Text>
          <SheetText settings={settings} onChange={setSettings} />
          <Box mt={5} bg="sheet" borderLeft="3px solid" borderColor="accent" px={5} py={3}>
            <Text fontFamily="heading" fontSize="17px" fontWeight={650}>
              1 · Hand in your predictions{' '}
              <Text as="span" fontFamily="body" fontSize="13.5px" fontWeight={400} color="quiet">
                {settings.scheme.marks} marks
              </Text>
            </Text>
            <Text fontSize="13.5px" color="quiet">
              A file that names each held-out row and gives <b>{target}</b> as{' '}
              {ANSWERS[metricNamed(settings.metric).needs]}. Checked: every row once, nothing but{' '}
              {ANSWERS[metricNamed(settings.metric).needs]}.
            </Text>
          </Box>
          <Flex mt={6} gap={3} align="center" wrap="wrap">
            <Action busy={doing.busy || packing} onClick={() => doing.run(release)}>
              Release
            </Action>
            <Action
              plain
              busy={doing.busy || packing}
              onClick={() => doing.run(async () => open(await save()))}
            >
              Save the draft
            </Action>
            {packing ? (
              <Text role="status" color="quiet">
                The pack is being made …
              </Text>
            ) : null}
            {exercise && !packing ? (
              <TwiceAction
                text="Delete the draft"
                consequence="The draft is gone then; nothing was handed in for it."
                busy={doing.busy}
                onConfirm={() =>
                  doing.run(async () => {
                    letGo();
                    await navigate(`/courses/${courseId}/exercises`);
                    await send('DELETE', address('exercises', exercise.id));
                  })
                }
              />
            ) : null}
          </Flex>
          <Complaint>{doing.problem?.message ?? exercise?.problem?.message}</Complaint>
        </>
      }
      right={
        <>
          <MarkingSentences settings={settings} task={task} sd={sd} onChange={setSettings} />
          <PackSentence settings={settings} foldSets={foldSets} onChange={setSettings} />
        </>
      }
    />
  );
}

/** Whether folds of the training rows go into the pack. */
function PackSentence({
  settings,
  foldSets,
  onChange,
}: {
  settings: Settings;
  foldSets: SheetProps['foldSets'];
  onChange: (settings: Settings) => void;
}) {
  const { timeZone } = useCourse();
  const { splitId, foldSetId } = settings;
  const ours = foldSets.filter((set) => set.splitId === splitId);
  if (ours.length === 0 && foldSetId === null) return null;
  const choices = ours.map(({ id, folds, repeats, createdAt }) => ({
    value: id,
    text: `${counted(folds, 'fold')}${repeats > 1 ? ` ${repeats} times over` : ''}, kept ${momentText(createdAt, timeZone)}`,
  }));
  const isKnown = foldSetId === null || ours.some(({ id }) => id === foldSetId);
  return (
    <Box mt={5}>
      <PlanSentence label="What else the pack holds">
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
        .
      </PlanSentence>
    </Box>
  );
}

function SheetText({ settings, onChange }: { settings: Settings; onChange: (settings: Settings) => void }) {
  const line = {
    w: '100%',
    maxW: '72ch',
    bg: 'sheet',
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: '4px',
    px: 3,
    py: '7px',
  } as const;
  return (
    <>
      <chakra.input
        {...line}
        mt={1}
        fontFamily="heading"
        fontSize="27px"
        fontWeight={650}
        lineHeight={1.2}
        aria-label="Title"
        value={settings.title}
        maxLength={200}
        onChange={(event) => onChange({ ...settings, title: event.target.value })}
      />
      <chakra.textarea
        {...line}
        mt={3}
        rows={6}
        aria-label="Brief, in Markdown"
        value={settings.brief}
        onChange={(event) => onChange({ ...settings, brief: event.target.value })}
      />
      <Subtitle>As students read it</Subtitle>
      <Brief text={settings.brief} />
    </>
  );
}
