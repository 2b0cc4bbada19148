import { Outlet, useParams } from 'react-router';
import { api } from '../api/address.js';
import { useAnswer } from '../api/client.js';
import { CourseContext, useChanges } from '../api/course.js';
import { Frame } from '../frame/frame.js';
import { Answer } from '../kit/answer/states.js';
import { useSession } from './session.js';

/** Everything within one course: who may be here, and the line on which the server announces changes. */
export function CoursePage() {
  const session = useSession();
  const { course: id = '' } = useParams();
  const course = useAnswer(api('/api/v1/courses/{course}', { course: id }));
  useChanges(course.data?.id ?? null);
  if (!course.data) {
    return (
      <Frame session={session}>
        <Answer of={course} what="the course">
          {() => null}
        </Answer>
      </Frame>
    );
  }
  return (
    <CourseContext value={course.data}>
      <Frame session={session} course={course.data}>
        <Outlet />
      </Frame>
    </CourseContext>
  );
}
