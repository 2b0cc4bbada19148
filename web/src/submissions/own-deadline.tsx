import { deadlineText } from '@modest-sieve/core/assessment';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/form/action.js';
import { PlanMoment } from '../kit/sentence/plan-sentence.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { useAction } from '../kit/form/use-action.js';

/** A student's own deadline, given and taken back in place. */
export function OwnDeadline({
  exercise,
  person,
  deadline,
}: {
  exercise: Schemas['ExerciseDetail'];
  person: { readonly id: string; readonly name: string };
  deadline: string | null;
}) {
  const { timeZone } = useCourse();
  const address = useCourseApi();
  const doing = useAction();
  const [typed, setTyped] = useState<string | null>(null);
  const set = (next: string | null) =>
    doing.run(async () => {
      await send(
        'put',
        address('/exercises/{exercise}/deadlines/{person}', { exercise: exercise.id, person: person.id }),
        { deadline: next },
      );
      setTyped(null);
    });
  if (typed !== null)
    return (
      <>
        <PlanMoment label={`own deadline of ${person.name}`} value={typed} onChange={setTyped} />{' '}
        <TextAction
          label={`keep the deadline of ${person.name}`}
          onClick={() => set(DateTime.fromISO(typed, { zone: timeZone }).toISO())}
        >
          keep
        </TextAction>{' '}
        <TextAction label={`leave the deadline of ${person.name}`} onClick={() => setTyped(null)}>
          leave
        </TextAction>
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
      </>
    );
  const start = DateTime.fromISO(deadline ?? exercise.deadline, { zone: timeZone }).toFormat(
    "yyyy-MM-dd'T'HH:mm",
  );
  const shown = deadline === null ? 'extend' : deadlineText(deadline, timeZone);
  return (
    <>
      <TextAction label={`${shown} for ${person.name}`} onClick={() => setTyped(start)}>
        {shown}
      </TextAction>
      {deadline === null ? null : (
        <>
          {' '}
          <TextAction label={`take back the deadline of ${person.name}`} onClick={() => set(null)}>
            take back
          </TextAction>
        </>
      )}
    </>
  );
}
