import { useAnswer, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Answer } from '../kit/answer/states.js';
import { CheckList } from '../kit/layout/checks.js';
import { Subtitle } from '../kit/layout/title.js';
import { ClassCurves } from '../kit/plot/class-curves.js';
import { MissedSubgroups } from './missed-subgroups.js';

/** Where an answer of predictions goes wrong: curves or residuals, and subgroups of rows. */
export function EvidenceOfAnswer({ exerciseId, id }: { exerciseId: string; id: string }) {
  const address = useCourseApi();
  const evidence = useAnswer(
    address('/exercises/{exercise}/submissions/{submission}/evidence', {
      exercise: exerciseId,
      submission: id,
    }),
  );
  return (
    <Answer of={evidence} what="where the answer goes wrong">
      {({ evidence: found }) => (found ? <Found evidence={found} /> : null)}
    </Answer>
  );
}

function Found({
  evidence: { classes, residuals, kind, subgroups },
}: {
  evidence: Schemas['AnswerEvidence'];
}) {
  return (
    <>
      {classes ? <ClassCurves classes={classes} /> : null}
      {residuals ? (
        <>
          <Subtitle>What the residuals say</Subtitle>
          <CheckList label="What the residuals say" checks={residuals} />
        </>
      ) : null}
      <MissedSubgroups
        title="Subgroups that it misses more than other rows"
        kind={kind}
        subgroups={subgroups}
      />
    </>
  );
}
