import { expect, it } from '@jest/globals';
import { slipGroups } from './slip-groups.js';

const slip = (id: string, question: string, ...answers: string[]) => ({
  ...{ id, question, answers },
  title: id,
  evidence: '',
  byHand: false,
});

it('mistakes that the same answers have are one group, in the order in which they come', () => {
  const groups = slipGroups([
    slip('best-fold-for-mean', 'q6', 'a', 'b', 'c'),
    slip('training-rows', 'q6', 'c', 'a', 'b'),
    slip('training-rows', 'q1', 'a', 'b', 'c'),
    slip('percent-for-fraction', 'q6', 'a', 'b'),
  ]);
  expect(groups.map((group) => group.map(({ id, question }) => `${question} ${id}`))).toEqual([
    ['q6 best-fold-for-mean', 'q6 training-rows'],
    ['q1 training-rows'],
    ['q6 percent-for-fraction'],
  ]);
});

it('a mistake that staff named stands alone: nothing says that it gives the same figure', () => {
  const groups = slipGroups([
    slip('training-rows', 'q1', 'a'),
    { ...slip('constant', 'q1', 'a'), byHand: true },
  ]);
  expect(groups).toHaveLength(2);
});
