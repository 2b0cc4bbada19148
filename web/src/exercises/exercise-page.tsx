import { Suspense } from 'react';
import { useParams } from 'react-router';
import { useAnswer } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer, Loading } from '../kit/answer/states.js';
import { lazily } from '../kit/lazily.js';

/** Each is fetched by whom it is for. */
const DraftComposer = lazily(() => import('./compose/composer.js'), 'DraftComposer');
const ReleasedExercise = lazily(() => import('./released-exercise.js'), 'ReleasedExercise');
const StudentSheet = lazily(() => import('./answer/student-sheet.js'), 'StudentSheet');

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
