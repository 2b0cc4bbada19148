import type { FeedbackPolicy } from '@modest-sieve/core/assessment';
import type { Schemas } from '../../api/client.js';

type MarkedBy = Schemas['QuestionSheet']['markedBy'];

/** What students are shown before the return under each policy, and what follows from it. */
export const FEEDBACK: Record<FeedbackPolicy, { words: string; consequence: string }> = {
  'after-return': {
    words: 'nothing but the file checks',
    consequence: 'Nobody can probe the held-out rows; nobody learns from a score either.',
  },
  rounded: {
    words: 'a rounded score on half of the held-out rows',
    consequence: 'Many attempts still reveal something: keep their number small.',
  },
  'only-when-better': {
    words: 'a score only when it is better',
    consequence:
      'A score on half of the held-out rows is shown where it is a step above the best so far, rounded to that step. The fewer the rows, the larger the step.',
  },
  everything: {
    words: 'everything, as practice',
    consequence:
      'Scores on half of the held-out rows, their answer grid, and which values are right. Many attempts can find those rows out.',
  },
};

/** What students are shown under a policy of questions whose marks are earned by these, before the return. */
export function feedbackWords(policy: FeedbackPolicy, marked: readonly MarkedBy[]): string {
  const { words } = FEEDBACK[policy];
  if (policy === 'after-return' || policy === 'everything') return words;
  const shown = [
    ...(marked.includes('score') ? [words] : []),
    ...(marked.includes('work') ? ['which checks of a split, folds or a curve hold'] : []),
  ];
  return shown.length === 0 ? FEEDBACK['after-return'].words : shown.join(', and ');
}
