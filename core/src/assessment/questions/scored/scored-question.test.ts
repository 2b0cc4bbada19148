import { describe, expect, it } from '@jest/globals';
import { asked, begun, fileOf, GIVEN, material } from '../../../../test/asked.js';
import { FEEDBACK, FINAL } from '../../material/held-out.js';

const question = begun('predictions', {
  metric: 'accuracy',
  scheme: { nothing: 0.5, most: 0.9, mostMarks: 8, all: 1, marks: 10, doubt: false },
});
/** The truth of the held-out rows, which the made-up table gives by a rule. */
const file = (wrong: readonly number[] = []) =>
  fileOf(
    `colony,prediction\n${Array.from({ length: 30 }, (_, i) => {
      const survived = ((GIVEN + i) * 7) % 10 < 6;
      return `c${GIVEN + i},${survived === wrong.includes(i) ? 'no' : 'yes'}`;
    }).join('\n')}\n`,
  );

describe('the key of predictions', () => {
  it('says how often two equally good models differ by a tenth of the marks', () => {
    // By hand: a standard error of √(0.9 · 0.1 / 30) = 0.0548; a tenth of the marks are 0.05, 0.913 of them: 36.1 % of a
    // normal distribution lie beyond that, and 6.8 % beyond twice as much.
    expect(asked(question).about.join('\n')).toContain(
      'in about 36 % of cases on 30 final rows; on four times as many rows, or with a line half as steep, in 7 %',
    );
  });
});

describe('what decides which predictions count', () => {
  it('is what the score on the feedback rows earns, and nothing where there are none', () => {
    const { marks, standing } = asked(question).hand({ file: file() });
    expect([marks, standing]).toEqual([10, 0]);
    // Half of the rows are for feedback, and 3 of these 15 are wrong: 0.8 is three quarters of the way to 8 marks.
    const division = Uint8Array.from({ length: 120 }, (_, row) =>
      row < GIVEN ? 0 : row % 2 === 0 ? FEEDBACK : FINAL,
    );
    const halved = asked(question, material({ division })).hand({ file: file([0, 2, 4]) });
    expect([halved.marks, halved.standing]).toEqual([10, 6]);
  });
});
