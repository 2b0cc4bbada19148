import { describe, expect, it } from '@jest/globals';
import { twofold } from '../../../test/marked.js';
import type { SlipPolicy } from '../policy/feedback.js';
import { disclose } from './disclose.js';
import type { Result } from './result.js';

describe('slips', () => {
  const found = [
    { id: 'rows-shifted', question: 'q1', field: null, evidence: 'better by 12 standard errors' },
    { id: 'constant', question: 'q1', field: null, evidence: 'one prediction for all rows' },
  ];
  const told = (slips: SlipPolicy, returned: boolean, result: Result = { ...twofold, slips: found }) =>
    disclose(result, {
      policy: 'everything',
      slips,
      returned,
      shown: null,
      latePercent: 0,
      adjustment: null,
      comment: null,
    }).slips?.map(({ id }) => id);

  it('are told when the exercise says so', () => {
    expect(told('never', true)).toBeUndefined();
    expect(told('after-return', false)).toBeUndefined();
    expect(told('after-return', true)).toEqual(['rows-shifted', 'constant']);
  });

  it('of predictions that follow from the held-out answers wait for the return, whatever the exercise says', () => {
    expect(told('after-attempt', false)).toEqual(['constant']);
    expect(told('after-attempt', true)).toEqual(['rows-shifted', 'constant']);
  });

  it('are told in words, without what was found and without a number of the answer', () => {
    const values: Result = {
      ...twofold,
      kind: 'values',
      scored: null,
      slips: [
        {
          id: 'precision-recall-exchanged',
          question: 'q1',
          field: 'precision',
          evidence: '0.8691 is what this mistake gives',
        },
      ],
    };
    expect(told('after-attempt', false, values)).toEqual(['precision-recall-exchanged']);
    const moment = { policy: 'after-return', slips: 'after-attempt', returned: false, shown: null } as const;
    const text = JSON.stringify(
      disclose(values, { ...moment, latePercent: 0, adjustment: null, comment: null }),
    );
    expect(text).not.toContain('0.8691');
    expect(text).toContain('recall where precision is asked');
  });
});
