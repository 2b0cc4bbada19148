import type { MarkScheme } from '@modest-sieve/core/assessment';
import { PlanNumber } from '../../kit/sentence/plan-sentence.js';

/** The points of a line of marks as the words of a sentence. */
export function SchemeWords({
  scheme,
  better,
  onChange,
}: {
  scheme: MarkScheme;
  better: 'higher' | 'lower';
  onChange: (change: Partial<MarkScheme>) => void;
}) {
  return (
    <>
      no marks {better === 'higher' ? 'up to' : 'from'}{' '}
      <PlanNumber
        label="score for nothing"
        value={scheme.nothing}
        onChange={(nothing) => onChange({ nothing })}
      />
      ,{' '}
      <PlanNumber
        label="marks for most"
        value={scheme.mostMarks}
        onChange={(mostMarks) => onChange({ mostMarks })}
        step={0.5}
        min={0.5}
      />{' '}
      marks at{' '}
      <PlanNumber label="score for most" value={scheme.most} onChange={(most) => onChange({ most })} />, all{' '}
      <PlanNumber
        label="all marks"
        value={scheme.marks}
        onChange={(marks) => onChange({ marks })}
        step={1}
        min={1}
        max={1000}
      />{' '}
      {better === 'higher' ? 'from' : 'down to'}{' '}
      <PlanNumber label="score for all" value={scheme.all} onChange={(all) => onChange({ all })} />
    </>
  );
}
