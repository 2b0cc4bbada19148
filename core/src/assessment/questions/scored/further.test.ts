import { describe, expect, it } from '@jest/globals';
import { asked } from '../../../../test/asked.js';
import { disclose } from '../../disclosure/disclose.js';
import { FEEDBACK, FINAL } from '../../material/held-out.js';
import { further, material, predictions, question, reference, table } from './further-of-tests.js';

describe('further figures', () => {
  it.each(
    reference.cases.flatMap((one) =>
      ['all', 'value', 'where', 'worst', 'gap'].map((on) => [one.metric, on, one] as const),
    ),
  )('%s, %s: as scikit-learn 1.2.1 has it', (metric, on, expected) => {
    const { scored, marks, outOf } = asked(
      question(further('log_loss', 'all'), further(metric, on)),
      material(),
    ).hand({ file: predictions() });
    const found = scored?.further?.[1];
    expect(found?.score).toBeCloseTo(expected[on as 'all'], 9);
    if (on === 'worst' || on === 'gap')
      expect(Object.fromEntries((found?.groups ?? []).map(({ label, score }) => [label, score]))).toEqual(
        Object.fromEntries(
          Object.entries(expected.groups).map(([label, score]) => [label, expect.closeTo(score, 9)]),
        ),
      );
    else expect(found?.groups).toEqual([]);
    const { low, high } = found?.interval ?? {};
    expect(low).toBeLessThanOrEqual(expected[on as 'all'] + 1e-9);
    expect(high).toBeGreaterThanOrEqual(expected[on as 'all'] - 1e-9);
    expect(outOf).toBe(16);
    expect(marks).toBeCloseTo(
      (scored?.first ?? 0) + (scored?.further ?? []).reduce((sum, one) => sum + one.marks, 0),
      9,
    );
  });

  it('earn marks along their own lines, the first one beside them', () => {
    const { scored, marks } = asked(question(further('accuracy', 'value')), material()).hand({
      file: predictions(),
    });
    // 0.68 is 0.18 of the 0.4 from nothing to most, for 8 marks; 0.76 of 25 rows lies above chance and its line begins at
    // the floor.
    const [hill] = scored?.further ?? [];
    const start = hill?.line.nothing ?? 0;
    expect(start).toBeGreaterThan(0.5);
    expect(hill?.marks).toBeCloseTo(Math.max(0, (2 * (0.76 - start)) / (0.9 - start)), 2);
    expect(marks).toBeCloseTo((scored?.first ?? 0) + (hill?.marks ?? 0), 9);
  });

  it('show nothing before the return, and no subgroup after it', () => {
    const result = asked(question(further('accuracy', 'worst')), material()).hand({ file: predictions() });
    const moment = {
      policy: 'everything',
      shown: null,
      latePercent: 0,
      slips: 'never',
      adjustment: null,
      comment: null,
    } as const;
    const open = JSON.stringify(disclose(result, { ...moment, returned: false }));
    expect(open).not.toMatch(/further|worst|coast/);
    const { scored } = disclose(result, { ...moment, returned: true });
    expect(scored?.final?.further).toMatchObject([
      { title: 'accuracy in the worst subgroup by region', rows: 150 },
    ]);
    expect(JSON.stringify(scored)).not.toContain('coast');
  });

  it('a constant file earns nothing, and what guesses reach no larger share than the first figure', () => {
    const all = question(
      further('accuracy', 'value'),
      further('recall', 'gap', { scheme: { nothing: 0.5, most: 0.2, all: 0.1, mostMarks: 2, marks: 3 } }),
    );
    const constant = asked(all, material()).hand({ file: predictions(() => 0.9) });
    expect(constant.scored?.further?.map(({ score, marks }) => [score, marks])).toEqual([
      [expect.any(Number), 0],
      [0, 0],
    ]);
    expect(constant.marks).toBe(0);
    // Nearly constant: the gap of recall is small, and shows nothing.
    const nearly = asked(all, material()).hand({ file: predictions((_, row) => (row === 3 ? 0.1 : 0.9)) });
    expect(nearly.scored?.first).toBe(0);
    expect(nearly.scored?.further?.[1]?.score).toBeLessThan(0.1);
    expect(nearly.scored?.further?.[1]?.marks).toBe(0);
    // Recall is 1 where everything is called positive: its marks are those of the first figure in proportion.
    const { scored } = asked(question(further('recall', 'where')), material()).hand({ file: predictions() });
    expect(scored?.further?.[0]?.score).toBeCloseTo(0.9242, 4);
    expect(scored?.first).toBeGreaterThan(0);
    expect(scored?.further?.[0]?.marks).toBeCloseTo((3 * (scored?.first ?? 0)) / 10, 2);
  });

  it('what decides which submission counts stays on the scale of all marks, and knows the feedback rows alone', () => {
    const halved = {
      ...material(),
      division: Uint8Array.from({ length: table.rowCount }, (_, row) =>
        row < reference.given ? 0 : row % 2 === 0 ? FEEDBACK : FINAL,
      ),
    };
    const one = asked(question(), halved).hand({ file: predictions() });
    const two = asked(question(further('accuracy', 'value')), halved).hand({ file: predictions() });
    expect(two.standing).toBeCloseTo(((one.standing ?? 0) * 13) / 10, 1);
  });

  it('files give probabilities where any figure needs them, and students read what is marked', () => {
    const { rules, sheet } = asked(question(further('roc_auc', 'where')), material());
    expect(rules).toMatchObject({ needs: 'probabilities' });
    expect(JSON.stringify(rules)).not.toContain('nothing":0.5,"most":0.9,"all":1,"mostMarks":2');
    expect(sheet().checked).toContain(
      'Also marked, on the final rows: area under the ROC curve where hives > 5 (3 marks). They are shown when the exercise is returned.',
    );
  });
});
