import { createContext, useContext, useEffect } from 'react';
import { courseApi, type CourseApi } from './address.js';
import { refresh, refreshConcerned, type Schemas } from './client.js';
import type { Topic } from './concerned.js';
import { paced } from './paced.js';

/** The course that the page is about. */
export const CourseContext = createContext<Schemas['CourseDetail'] | null>(null);

export function useCourse(): Schemas['CourseDetail'] {
  const course = useContext(CourseContext);
  if (!course) throw new Error('this part needs a course around it');
  return course;
}

/** An address of the API within the course. */
export function useCourseApi(): CourseApi {
  return courseApi(useCourse().id);
}

const LISTEN_AGAIN = 3000;

/**
 * Asks again whenever the server says that something in the course changed. Only a page that is seen listens: a browser
 * opens few connections to one server, and pages in the background, or kept for going back, would use them up.
 */
export function useChanges(courseId: string | null): void {
  useEffect(() => {
    if (courseId === null) return;
    let source: EventSource | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    // A class that hands in before a deadline changes something many times a second.
    const asking = new Map<Topic, () => void>();
    const listen = () => {
      clearTimeout(timer);
      source?.close();
      source = null;
      if (document.visibilityState === 'hidden') return;
      source = new EventSource(courseApi(courseId)('/events'));
      source.addEventListener('change', ({ data }: MessageEvent<string>) => {
        const { about } = JSON.parse(data) as Schemas['ChangeEvent'];
        let ask = asking.get(about);
        if (!ask) asking.set(about, (ask = paced(() => refreshConcerned(courseId, about))));
        ask();
      });
      // Whatever changed while nobody listened is asked for once the line is open.
      source.addEventListener('open', () => void refresh());
      // A lost line is taken up again by the browser; a refused one is not.
      source.addEventListener('error', () => {
        if (source?.readyState === EventSource.CLOSED) timer = setTimeout(listen, LISTEN_AGAIN);
      });
    };
    listen();
    document.addEventListener('visibilitychange', listen);
    return () => {
      document.removeEventListener('visibilitychange', listen);
      clearTimeout(timer);
      source?.close();
    };
  }, [courseId]);
}
