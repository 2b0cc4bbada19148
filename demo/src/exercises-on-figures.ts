import { classLessons } from './class-work.js';
import { BY_APIARY, type DemoExercise } from './exercise-parts.js';
import { LESSONS, lessonAnswers } from './lessons.js';

/** An exercise whose keys are computed from the data and from models. */
export const ON_FIGURES: readonly DemoExercise[] = [
  {
    split: BY_APIARY,
    settings: {
      title: 'Six lessons in figures',
      brief: `Each question has figures that say what the lesson is about. Use any program: what counts is the figure.

Numbers are right to the digits that you type.`,
      questions: LESSONS,
      attempts: 4,
      counts: 'best',
      feedback: 'everything',
      slips: 'after-attempt',
    },
    dueInDays: 9,
    answers: [lessonAnswers(3, []), lessonAnswers(6, ['q1', 'q6']), [], ...classLessons()],
    returned: false,
  },
];
