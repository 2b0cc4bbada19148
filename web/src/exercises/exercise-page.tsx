import { lazy, Suspense } from 'react';
import { useParams } from 'react-router';
import { useAnswer } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Loading } from '../kit/answer/states.js';

/** Each is fetched by whom it is for. */
const DraftComposer = lazy(async () => ({ default: (await import('./compose/composer.js')).DraftComposer }));
const ReleasedExercise = lazy(async () => ({
  default: (await import('./released-exercise.js')).ReleasedExercise,
}));
const StudentSheet = lazy(async () => ({
  default: (await import('./answer/student-sheet.js')).StudentSheet,
}));

/** One exercise: the composer while it is a draft, what was released to instructors, the sheet to students. */
export function ExercisePage() {
  const { exercise: id = '' } = useParams();
  const { role } = useCourse();
  const address = useCourseApi();
  const exercise = useAnswer(address('/exercises/{exercise}', { exercise: id }));
  return (
    <Answer of={exercise} what="the exercise">
      {(data) => (
        <Suspense fallback={<Loading what="the page" />}>
          {role === 'student' ? (
            <StudentSheet exercise={data} />
          ) : data.state === 'draft' || data.state === 'packing' ? (
            <DraftComposer exercise={data} />
          ) : (
            <ReleasedExercise exercise={data} />
          )}
        </Suspense>
      )}
    </Answer>
  );
}
