import { Box, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { marksOf, type Question } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { send, useAnswer, type Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/form/action.js';
import { Answer, Empty } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Subtitle, Title } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { useAction } from '../../kit/form/use-action.js';
import { CorrectionChanges } from './correction-changes.js';
import { QuestionMargin } from '../compose/question-margin.js';
import { dataOf, type Data } from '../common/settings.js';
import { QuestionText } from '../compose/sheet-text.js';
import { questionsIn } from '../common/saved-drafts.js';
import { useSaved } from '../common/use-saved.js';

/** Questions and keys of an exercise that students have, corrected: first what would change, then the change. */
export function CorrectionPage() {
  const { exercise: id = '' } = useParams();
  const { role } = useCourse();
  const address = useCourseApi();
  const exercise = useAnswer(
    role === 'instructor' ? address('/exercises/{exercise}', { exercise: id }) : null,
  );
  const dataSetId = exercise.data?.dataSet?.address;
  const dataSet = useAnswer(dataSetId ? address('/data-sets/{dataSet}', { dataSet: dataSetId }) : null);
  const isBegun = exercise.data?.correction != null;
  const correction = useAnswer(
    isBegun ? address('/exercises/{exercise}/correction', { exercise: id }) : null,
  );
  if (role !== 'instructor')
    return <Empty title="Only instructors correct an exercise">Ask yours to look at it.</Empty>;
  return (
    <Answer of={exercise} what="the exercise">
      {(about) =>
        about.state === 'draft' || about.state === 'packing' ? (
          <Empty title="Students do not have it yet">
            <Link to="..">Change the draft</Link> in place of correcting it.
          </Empty>
        ) : (
          <Answer of={dataSet} what="the data set">
            {(found) => {
              const data = dataOf(found);
              if (!data)
                return <Empty title="The data set has no roles any more">Mark its columns at Look.</Empty>;
              if (!isBegun) return <Correcting key="new" exercise={about} data={data} correction={null} />;
              return (
                <Answer of={correction} what="the correction">
                  {(begun) => (
                    <Correcting key={begun.revision} exercise={about} data={data} correction={begun} />
                  )}
                </Answer>
              );
            }}
          </Answer>
        )
      }
    </Answer>
  );
}

function correctedIn(saved: unknown, data: Data): Corrected | null {
  const all = typeof saved === 'object' && saved !== null && 'questions' in saved ? saved.questions : null;
  const questions = questionsIn(all, data);
  return questions && { questions };
}

interface Corrected {
  readonly questions: readonly Question[];
}

function Correcting({
  exercise,
  data,
  correction,
}: {
  exercise: Schemas['ExerciseDetail'];
  data: Data;
  correction: Schemas['CorrectionInfo'] | null;
}) {
  const address = useCourseApi();
  const { id: courseId } = useCourse();
  const navigate = useNavigate();
  const doing = useAction();
  const [start] = useState<Corrected>({
    questions: correction?.corrected ?? exercise.composed ?? [],
  });
  const [corrected, setCorrected, letGo] = useSaved<Corrected>(
    `correction ${exercise.id} ${correction?.revision ?? 'new'}`,
    start,
    (saved) => correctedIn(saved, data),
  );
  const { questions } = corrected;
  const [chosenId, choose] = useState<string | null>(null);
  const chosen = questions.find(({ id }) => id === chosenId) ?? questions[0];
  const isOther = corrected !== start;
  const change = (next: Question) =>
    setCorrected({ questions: questions.map((one) => (one.id === next.id ? next : one)) });
  const compute = async () => {
    await send('put', address('/exercises/{exercise}/correction', { exercise: exercise.id }), corrected);
    letGo();
  };
  const back = async () => {
    letGo();
    await navigate(`/courses/${courseId}/exercises/${exercise.id}`);
  };
  return (
    <TwoPane
      left={
        <>
          <Title aside={<Link to="..">back to the exercise</Link>}>Correct “{exercise.title}”</Title>
          <Text mt={2} maxW="72ch" color="quiet">
            Truths, tolerances, marks and the texts of questions can be corrected, and keys computed again
            from the reference runs of today. Every answer is then marked again, and you read what changes
            before anything is applied. With nothing corrected, all answers are marked by the program of
            today.
          </Text>
          {correction ? (
            <CorrectionChanges
              exercise={exercise}
              correction={correction}
              isEdited={isOther}
              onApplied={back}
              onDropped={back}
            />
          ) : null}
          <Subtitle>Questions as students will read them</Subtitle>
          {questions.map((question, i) => (
            <QuestionText
              key={question.id}
              question={question}
              place={i + 1}
              isChosen={question.id === chosen?.id}
              arrives={chosenId !== null}
              onChoose={() => choose(question.id)}
              onChange={change}
              onMove={null}
              onRemove={null}
            />
          ))}
          <Flex mt={4} gap={3} align="center" wrap="wrap">
            <Action busy={doing.busy || correction?.state === 'waiting'} onClick={() => doing.run(compute)}>
              Compute what changes
            </Action>
            <Text fontSize="13.5px" color="quiet">
              Nothing is applied by this.
            </Text>
          </Flex>
          <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        </>
      }
      right={
        chosen ? (
          <Box>
            <QuestionMargin
              key={chosen.id}
              question={chosen}
              place={questions.indexOf(chosen) + 1}
              data={data}
              splitId={exercise.splitId}
              onChange={change}
            />
            <Text mt={4} fontSize="13.5px" color="quiet">
              {counted(
                questions.reduce((sum, question) => sum + marksOf(question), 0),
                'mark',
              )}{' '}
              in all; students have it with {exercise.marks}.
            </Text>
          </Box>
        ) : null
      }
    />
  );
}
