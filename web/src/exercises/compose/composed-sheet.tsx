import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { questionKindOf, marksOf, QUESTION_KINDS, type Question } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { send } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { Action, TextAction } from '../../kit/form/action.js';
import { useIsGoneTo } from '../../kit/layout/arrive.js';
import { ConfirmButton } from '../../kit/form/confirm-button.js';
import { Field } from '../../kit/form/field.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { HiddenTitle } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { useAction } from '../../kit/form/use-action.js';
import { PolicySentence } from '../common/policy-sentence.js';
import { QuestionMargin } from './question-margin.js';
import { newQuestion } from '../common/settings.js';
import { QuestionText, SheetText } from './sheet-text.js';
import { TryAsStudent } from './try-as-student.js';
import { draftIn } from '../common/saved-drafts.js';
import { useSaved } from '../common/use-saved.js';
import { exportExercise, ImportExercise } from './exercise-file.js';
import { type SheetProps, PackSentence } from './pack-sentence.js';

/** The sheet as students will see it, edited in place, with key and marks beside it. */
export function Sheet({ start, data, foldSets, exercise }: SheetProps) {
  const address = useCourseApi();
  const { id: courseId } = useCourse();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const doing = useAction();
  const [settings, setSettings, letGo] = useSaved(
    `composer ${exercise?.id ?? start.splitId}`,
    start,
    (saved) => draftIn(saved, start, data),
  );
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
      await send('put', address('/exercises/{exercise}', { exercise: exercise.id }), settings);
      letGo();
      return exercise.id;
    }
    const { id } = await send('post', address('/exercises'), settings);
    letGo();
    return id;
  };
  const open = (id: string, query = '') =>
    navigate(`/courses/${courseId}/exercises/${id}${query}`, { replace: true });
  const release = async () => {
    const id = await save();
    await open(id);
    await send('post', address('/exercises/{exercise}/release', { exercise: id }), { reason });
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
                    await send('delete', address('/exercises/{exercise}', { exercise: exercise.id }));
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
