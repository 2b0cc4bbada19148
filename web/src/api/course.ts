import { createContext, useContext, useEffect } from 'react';
import { api, refresh, type Schemas } from './client.js';

/** The course that the page is about. */
export const CourseContext = createContext<Schemas['CourseDetail'] | null>(null);

export function useCourse(): Schemas['CourseDetail'] {
  const course = useContext(CourseContext);
  if (!course) throw new Error('this part stands within a course');
  return course;
}

/** An address of the API within the course. */
export function useCourseApi(): (...parts: string[]) => string {
  const { id } = useCourse();
  return (...parts) => api('courses', id, ...parts);
}

/** Asks anew whenever the server says that something in the course changed, and after the line was broken. */
export function useChanges(courseId: string | null): void {
  useEffect(() => {
    if (courseId === null) return;
    const source = new EventSource(api('courses', courseId, 'events'));
    let broken = false;
    source.addEventListener('change', () => void refresh());
    source.addEventListener('error', () => (broken = true));
    source.addEventListener('open', () => {
      if (broken) void refresh();
      broken = false;
    });
    return () => source.close();
  }, [courseId]);
}
