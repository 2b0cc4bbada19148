import { Outlet, useParams } from 'react-router';
import { api, useAnswer } from '../api/client.js';
import { CourseContext, useChanges } from '../api/course.js';
import { Frame } from '../frame/frame.js';
import { Answer } from '../kit/answer/states.js';
import { useSession } from './session.js';

/** Everything within one course: who may be here, and the line on which the server tells of changes. */
export function CoursePage() {
  const session = useSession();
  const { course: id = '' } = useParams();
  const course = useAnswer<'CourseDetail'>(api('courses', id));
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
