import { questionKindOf, deadlineText, lateWords } from '@modest-sieve/core/assessment';
import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Link } from 'react-router';
import { type Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { CheckList } from '../kit/layout/checks.js';
import { Brief } from '../kit/layout/markdown.js';
import { MarkLine } from '../kit/plot/mark-line.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { TwoPane } from '../kit/layout/two-pane.js';
import { KeyLines } from './common/key-lines.js';
import { PackLine } from './answer/pack-line.js';
import { feedbackWords } from './common/feedback-words.js';
import { QuestionView } from './answer/question-view.js';
import { metricOf, schemeOf } from './common/scheme-of.js';
import { Changes } from './changes.js';

/** An exercise that students have: brief, questions, pack and its audit, keys and marks. */
export function ReleasedExercise({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const { id, timeZone, joinCode, role } = useCourse();
  const { sheets, keys, audit, state } = exercise;
  const late = lateWords(exercise);
  return (
    <TwoPane
      left={
        <>
          <Title
            aside={`${state === 'returned' ? 'returned' : 'open'} · due ${deadlineText(exercise.deadline, timeZone)} · ${counted(exercise.marks, 'mark')}`}
          >
            {exercise.title}
          </Title>
          {exercise.opensAt !== null && exercise.opensAt > exercise.now ? (
            <Text mt={1} fontWeight={700}>
              Students see it from {deadlineText(exercise.opensAt, timeZone)} on.
            </Text>
          ) : null}
          {exercise.stale ? (
            <Text mt={2} role="status">
              <b>Keys out of date.</b> The reference runs of the split have changed since the keys were
              computed.{' '}
              {role === 'instructor' ? <Link to="correction">See what new keys would change</Link> : null}
            </Text>
          ) : null}
          {exercise.notice === '' ? null : <Text mt={2}>Students read: {exercise.notice}</Text>}
          <Box mt={3}>
            <Brief text={exercise.brief} />
          </Box>
          <PackLine exercise={exercise} />
          {sheets.map((sheet, i) => (
            <QuestionView key={sheet.id} sheet={sheet} place={i + 1}>
              {questionKindOf(sheet.kind).markedBy === 'key' ? (
                <Box as="ul" pl={5} fontSize="13.5px" color="quiet" aria-label={`asked in question ${i + 1}`}>
                  {sheet.fields.map(({ key, label }) => (
                    <li key={key}>{label}</li>
                  ))}
                </Box>
              ) : null}
            </QuestionView>
          ))}
          <Text mt={4}>
            <Link to={`/courses/${id}/exercises/${exercise.id}/submissions`}>See what was handed in</Link>
          </Text>
          {joinCode === null ? null : (
            <Text mt={1} fontSize="13.5px" color="quiet">
              Students join this course with the code <b>{joinCode}</b>.
            </Text>
          )}
          {role === 'instructor' ? <Changes exercise={exercise} /> : null}
        </>
      }
      right={
        <>
          {sheets.map((sheet, i) => {
            const scheme = schemeOf(sheet);
            const metric = metricOf(sheet);
            return (
              <Box key={sheet.id}>
                <Subtitle>{`Question ${i + 1}: key and marks`}</Subtitle>
                {scheme && metric ? <MarkLine scheme={scheme} metricKey={metric} /> : null}
                <KeyLines about={keys?.find(({ question }) => question === sheet.id)?.about ?? []} />
              </Box>
            );
          })}
          <Subtitle>Attempts and feedback</Subtitle>
          <Text fontSize="14px" color="quiet">
            {counted(exercise.attempts, 'attempt')} at each question
            {exercise.perDay === null ? '' : `, ${exercise.perDay} a day`}; the {exercise.counts} counts
            {late === '' ? '' : `; ${late}`}. While it is open students see{' '}
            {feedbackWords(
              exercise.feedback,
              sheets.map(({ markedBy }) => markedBy),
            )}
            .
          </Text>
          {audit && audit.length > 0 ? (
            <>
              <Subtitle>Audit of the pack</Subtitle>
              <CheckList label="Audit of the pack" checks={audit} />
            </>
          ) : null}
        </>
      }
    />
  );
}
