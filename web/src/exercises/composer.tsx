import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { questionKindOf, marksOf, QUESTION_KINDS, type Question } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { send, useAnswer, useAnswers, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { useIsGoneTo } from '../kit/layout/arrive.js';
import { foldsName } from '../desks/names.js';
import { ConfirmButton } from '../kit/form/confirm-button.js';
import { Field } from '../kit/form/field.js';
import { PlanChoice, PlanSentence } from '../kit/sentence/plan-sentence.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { HiddenTitle } from '../kit/layout/title.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { useAction } from '../kit/form/use-action.js';
import { BeginExercise } from './begin-exercise.js';
import { PolicySentence } from './policy-sentence.js';
import { QuestionMargin } from './question-margin.js';
import { dataOf, firstSettings, newQuestion, settingsIn, type Data, type Settings } from './settings.js';
import { QuestionText, SheetText } from './sheet-text.js';
import { TryAsStudent } from './try-as-student.js';
import { useKept } from './use-kept.js';
import { exportExercise, ImportExercise } from './exercise-file.js';

/** A new exercise on the split that the address names. */
export function Composer() {
  const [search] = useSearchParams();
  const address = useCourseApi();
  const { timeZone } = useCourse();
  const dataSetId = search.get('dataSet');
  const isChosen = dataSetId !== null && search.has('split');
  const dataSet = useAnswer<'DataSetDetail'>(isChosen ? address('data-sets', dataSetId) : null);
  const runs = useAnswers<'TrialInfo'>(isChosen ? address('data-sets', dataSetId, 'trials') : null);
  if (!isChosen) return <BeginExercise dataSet={dataSetId} />;
  return (
    <Answer of={dataSet} what="the data set">
      {(found) => {
        const split = found.splits.find((s) => s.id === search.get('split'));
        return (
          <Answer of={runs} what="the runs on it">
            {(tried) => {
              const data = dataOf(found, tried);
              if (!split || !data)
                return <Empty title="This split is not known">It may belong to another data set.</Empty>;
              const start = firstSettings(split.id, data, timeZone);
              return <Sheet start={start} data={data} foldSets={found.foldSets} />;
            }}
          </Answer>
        );
      }}
    </Answer>
  );
}

/** A draft that was saved. */
export function DraftComposer({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  const dataSet = useAnswer<'DataSetDetail'>(
    exercise.dataSet ? address('data-sets', exercise.dataSet.address) : null,
  );
  const runs = useAnswers<'TrialInfo'>(
    exercise.dataSet ? address('data-sets', exercise.dataSet.address, 'trials') : null,
  );
  const [start] = useState<Settings>(settingsIn(exercise));
  return (
    <Answer of={dataSet} what="the data set">
      {(found) => {
        const data = dataOf(found, runs.data);
        return data ? (
          <Sheet key={exercise.id} start={start} data={data} foldSets={found.foldSets} exercise={exercise} />
        ) : (
          <Empty title="The data set has no roles any more">Mark its columns at Look.</Empty>
        );
      }}
    </Answer>
  );
}

interface SheetProps {
  readonly start: Settings;
  readonly data: Data;
  readonly foldSets: Schemas['DataSetDetail']['foldSets'];
  readonly exercise?: Schemas['ExerciseDetail'];
}

/** The sheet as students will see it, edited in place, with key and marks beside it. */
function Sheet({ start, data, foldSets, exercise }: SheetProps) {
  const address = useCourseApi();
  const { id: courseId } = useCourse();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const doing = useAction();
  const [settings, setSettings, letGo] = useKept(`composer ${exercise?.id ?? start.splitId}`, start);
  const [reason, setReason] = useState('');
  const needsReason = exercise?.problem?.code === 'needs-reason';
  const isGoneTo = useIsGoneTo();
  const packing = exercise?.state === 'packing';
  const { questions } = settings;
  const chosen = questions.find(({ id }) => id === search.get('question')) ?? questions[0];
  const choose = (question: string) =>
    setSearch(
      (now) => {
        now.set('question', question);
        return now;
      },
      { replace: true },
    );
  const setQuestions = (next: readonly Question[]) => setSettings({ ...settings, questions: next });
  const change = (next: Question) => setQuestions(questions.map((one) => (one.id === next.id ? next : one)));

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
  const open = (id: string, query = '') =>
    navigate(`/courses/${courseId}/exercises/${id}${query}`, { replace: true });
  const release = async () => {
    const id = await save();
    await open(id);
    await send('POST', address('exercises', id, 'release'), { reason });
  };

  if (exercise && search.get('view') === 'student')
    return <TryAsStudent exercise={exercise} onBack={() => void open(exercise.id)} />;

  return (
    <TwoPane
      left={
        <>
          <HiddenTitle>{exercise ? `Draft of ${exercise.title}` : 'New exercise'}</HiddenTitle>
          <Text pt={4} fontSize="13.5px" color="quiet">
            {packing ? 'being released' : exercise ? 'draft' : 'new'} · {data.name} ·{' '}
            {counted(
              questions.reduce((sum, question) => sum + marksOf(question), 0),
              'mark',
            )}
          </Text>
          <SheetText settings={settings} onChange={setSettings} />
          <Box mt={5}>
            {questions.map((question, i) => (
              <QuestionText
                key={question.id}
                question={question}
                place={i + 1}
                isChosen={question.id === chosen?.id}
                arrives={isGoneTo && search.has('question')}
                onChoose={() => choose(question.id)}
                onChange={change}
                onMove={(way) => setQuestions(moved(questions, i, i + way))}
                onRemove={
                  questions.length < 2 ? null : () => setQuestions(questions.filter((_, at) => at !== i))
                }
              />
            ))}
          </Box>
          <Text mt={4} fontWeight={700} fontSize="14.5px">
            Add a question:{' '}
            {QUESTION_KINDS.map(({ key, title }, i) => (
              <Text as="span" key={key}>
                {i > 0 ? ' · ' : ''}
                <TextAction
                  label={`add a question: ${title}`}
                  onClick={() => {
                    const question = newQuestion(key, questions, data, settings.splitId);
                    setQuestions([...questions, question]);
                    choose(question.id);
                  }}
                >
                  {title}
                </TextAction>
              </Text>
            ))}
          </Text>
          <Flex mt={6} pt={4} gap={3} align="center" wrap="wrap" borderTop="1px solid" borderColor="rule">
            <Action busy={doing.busy || packing} onClick={() => doing.run(release)}>
              Release
            </Action>
            <Action
              plain
              busy={doing.busy || packing}
              onClick={() => doing.run(async () => open(await save(), '?view=student'))}
            >
              Try it as a student
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
              <ConfirmButton
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
          <ErrorMessage>{doing.problem?.message ?? exercise?.problem?.message}</ErrorMessage>
          {needsReason ? (
            <Box mt={2} maxW="520px">
              <Field
                label="Why it may be released all the same"
                value={reason}
                hint="Recorded in the activity log. “Try it as a student” shows everything that the audit found."
                onChange={(event) => setReason(event.target.value)}
              />
            </Box>
          ) : null}
          <Flex mt={3} gap={4} align="center" fontSize="14px">
            <TextAction onClick={() => exportExercise(settings)}>Export as JSON</TextAction>
            <ImportExercise data={data} onImport={(imported) => setSettings({ ...settings, ...imported })} />
          </Flex>
        </>
      }
      right={
        <>
          {chosen ? (
            <QuestionMargin
              key={chosen.id}
              question={chosen}
              place={questions.indexOf(chosen) + 1}
              data={data}
              splitId={settings.splitId}
              onChange={change}
            />
          ) : null}
          <PolicySentence
            policy={settings}
            feedbackRows={data.feedbackRows(settings.splitId)}
            predictionQuestions={
              settings.questions.filter(({ kind }) => questionKindOf(kind).markedBy === 'score').length
            }
            onChange={setSettings}
          />
          <PackSentence settings={settings} known={data.known} foldSets={foldSets} onChange={setSettings} />
        </>
      }
    />
  );
}

/** A list with one of its items at another place; as it was where there is no such place. */
function moved<T>(items: readonly T[], from: number, to: number): readonly T[] {
  const item = items[from];
  if (item === undefined || to < 0 || to >= items.length) return items;
  const others = items.filter((_, i) => i !== from);
  return [...others.slice(0, to), item, ...others.slice(to)];
}

/** What goes into the pack beside the rows, and how these are named. */
function PackSentence({
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
          Prepare; or bring rows of your own below it there, and hold these out by the order of the rows.
        </Text>
      )}
    </Box>
  );
}
