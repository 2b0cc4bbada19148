import { Text } from '@chakra-ui/react';
import { probingReaches, proposedAttempts } from '@modest-sieve/core/assessment';
import { TextAction } from '../../kit/form/action.js';
import type { Policy } from './settings.js';

/** So many students of a class may well share what they are shown. */
const SHARE = 12;

/**
 * What guessed files can find out of the feedback rows, with these attempts; null where no score is shown.
 *
 * @param questions how many questions ask for predictions: each has its attempts, and all are scored on the same rows
 */
export function probingWords({ feedback, attempts }: Policy, rows: number, questions: number): string | null {
  if (feedback === 'after-return' || questions === 0) return null;
  const reach = (students: number) => {
    const reached = probingReaches(feedback, rows, attempts * questions * students);
    return reached === null ? 'more than was simulated' : reached.toFixed(2);
  };
  const about = `${rows} feedback rows of two equal classes, where guessing reaches 0.50: by probing, one student reaches ${reach(1)}, and ${SHARE} who share what they are shown reach ${reach(SHARE)}.`;
  return rows < 100 ? `${about} With fewer than 100 rows every score reveals much.` : about;
}

/** What probing gains under a policy, and how many attempts are proposed. */
export function ProbingNote({
  policy,
  rows,
  questions,
  onPropose,
}: {
  policy: Policy;
  rows: number;
  questions: number;
  onPropose: (attempts: number) => void;
}) {
  const words = probingWords(policy, rows, questions);
  if (words === null) return null;
  const proposed = proposedAttempts(policy.feedback, rows, SHARE * questions);
  return (
    <Text mt={1} fontSize="13px" color="quiet" data-probing>
      {`Simulated for ${words} `}
      {policy.attempts > proposed ? (
        <TextAction onClick={() => onPropose(proposed)}>
          {proposed === 1 ? 'Take the proposed 1 attempt' : `Take the proposed ${proposed} attempts`}
        </TextAction>
      ) : null}
    </Text>
  );
}
