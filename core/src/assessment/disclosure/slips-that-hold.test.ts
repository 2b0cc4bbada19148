import { describe, expect, it } from '@jest/globals';
import { twofold } from '../../../test/marked.js';
import type { Result } from './result.js';
import { withVerdicts, type SlipVerdict } from './slips-that-hold.js';

describe('verdicts on mistakes', () => {
  const found = (id: string, field: string | null) => ({
    id,
    question: 'q1',
    field,
    evidence: 'as measured',
  });
  const result: Result = {
    ...twofold,
    slips: [found('percent-for-fraction', 'recall'), found('percent-for-fraction', 'precision')],
  };
  const held = (...verdicts: SlipVerdict[]) =>
    withVerdicts(result, 'q1', verdicts).slips?.map(
      ({ id, field, evidence }) => `${id} ${field}: ${evidence}`,
    );

  it('take away the one that is dismissed, in its field alone', () => {
    expect(held({ slip: 'percent-for-fraction', field: 'recall', verdict: 'dismissed' })).toEqual([
      'percent-for-fraction precision: as measured',
    ]);
    expect(held({ slip: 'percent-for-fraction', field: null, verdict: 'dismissed' })).toHaveLength(2);
  });

  it('add the one that is named, and one that was found besides stays with its evidence', () => {
    expect(held({ slip: 'constant', field: null, verdict: 'named' })?.at(-1)).toBe(
      'constant null: named by staff',
    );
    expect(held({ slip: 'percent-for-fraction', field: 'recall', verdict: 'named' })).toEqual(held());
  });

  it('name a mistake where none was found', () => {
    const { slips } = withVerdicts(twofold, 'q1', [{ slip: 'constant', field: null, verdict: 'named' }]);
    expect(slips).toEqual([
      { id: 'constant', question: 'q1', field: null, evidence: 'named by staff', byHand: true },
    ]);
  });
});
