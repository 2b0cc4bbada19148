import { useParams } from 'react-router';
import { useAnswer } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Answer } from '../kit/states.js';
import { DraftComposer } from './composer.js';
import { ReleasedExercise } from './released-exercise.js';
import { StudentSheet } from './student-sheet.js';

/** One exercise: the composer while it is a draft, what was released to instructors, the sheet to students. */
export function ExercisePage() {
  const { exercise: id = '' } = useParams();
  const { role } = useCourse();
  const address = useCourseApi();
  const exercise = useAnswer<'ExerciseDetail'>(address('exercises', id));
  return (
    <Answer of={exercise} what="the exercise">
      {(data) =>
        role === 'student' ? (
          <StudentSheet exercise={data} />
        ) : data.state === 'draft' || data.state === 'packing' ? (
          <DraftComposer exercise={data} />
        ) : (
          <ReleasedExercise exercise={data} />
        )
      }
    </Answer>
  );
}
