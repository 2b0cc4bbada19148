import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { asked, begun, failing, GIVEN, material, SUBJECT } from '../../../../test/asked.js';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../../foundation/random/random.js';
import { questionKindOf } from '../registry.js';
import { all, text } from './files-of-tests.js';

describe('folds', () => {
  const values = { k: 5, stratify: '', group: 'apiary', reports: 'nothing' };
  const foldsFile = (fold: (row: number) => string | number) =>
    `colony,fold\n${all.map((row) => `c${row},${fold(row)}`).join('\n')}\n`;
  const byApiaryFold = (row: number) => (Math.floor(row / 5) % 5) + 1;

  it('of whole apiaries and equal sizes earn all marks', () => {
    expect(asked(begun('folds', { values })).hand(text(foldsFile(byApiaryFold)))).toMatchObject({ marks: 4 });
  });

  it.each([
    ['groups', { ...values }, (row: number) => (row % 5) + 1],
    ['sizes', { ...values, group: '' }, (row: number) => (row < 30 ? 1 : (row % 4) + 2)],
    [
      'strata',
      { ...values, group: '', stratify: 'survived' },
      (row: number) =>
        Math.floor([...all].sort((a, b) => ((a * 7) % 10) - ((b * 7) % 10) || a - b).indexOf(row) / 18) + 1,
    ],
  ])('fail by their %s', (id, asks, fold) => {
    expect(failing(asked(begun('folds', { values: asks })).hand(text(foldsFile(fold))))).toContain(id);
  });

  it('of unequal size, whose shares are not judged: that check is left out, or counts as held', () => {
    const unequal = text(foldsFile((row) => (row < 30 ? 1 : (row % 4) + 2)));
    const of = (more: object) => {
      const one = asked(begun('folds', { values: { ...values, group: '', stratify: 'survived', ...more } }));
      return { ...one.hand(unequal), said: one.sheet().checked };
    };
    const marksOf = ({ judged }: ReturnType<typeof of>) =>
      judged.map(({ check, marks, outOf }) => [check.id, check.outcome, marks, outOf]);
    const leftOut = of({});
    expect(marksOf(leftOut).find(([id]) => id === 'strata')).toEqual(['strata', 'unsure', 0, 0]);
    expect(leftOut.marks).toBe(0);
    const held = of({ unjudged: 'held' });
    expect(marksOf(held).find(([id]) => id === 'strata')).toEqual(['strata', 'unsure', 2, 2]);
    expect(held.marks).toBe(2);
    expect(
      [leftOut.said, held.said].map((said) => said.includes('could not be judged counts as held')),
    ).toEqual([false, true]);
  });

  it.each([
    ['from 0', (row: number) => row % 5, 'folds are numbered from 1'],
    ['by text', (row: number) => `fold ${(row % 5) + 1}`, 'is not a fold from 1 to 5'],
    ['beyond k', (row: number) => (row % 6) + 1, 'is not a fold from 1 to 5'],
    ['by halves', (row: number) => (row % 5) + 0.5, 'is not a fold from 1 to 5'],
  ])('numbered %s are refused', (_, fold, words) => {
    const result = asked(begun('folds', { values })).hand(text(foldsFile(fold)));
    expect(result.holds).toBe(false);
    expect(result.checks.flatMap((one) => one.examples.map((example) => example.text)).join()).toContain(
      words,
    );
  });

  it('that are any partition into k equal parts hold, however they were assigned', () => {
    const plain = asked(begun('folds', { values: { ...values, group: '' } }));
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const order = shuffle(indices(GIVEN), seededRandom(seed));
        const place = new Map(Array.from(order, (row, i) => [row, i]));
        const result = plain.hand(text(foldsFile((row) => ((place.get(row) ?? 0) % 5) + 1)));
        expect(failing(result)).toEqual([]);
      }),
      { numRuns: 20 },
    );
  });

  describe('with out-of-fold predictions', () => {
    const reports = { ...values, reports: 'predictions', metric: 'accuracy', family: 'any' };
    const survived = (row: number) => ((row === 7 ? 2 : row) * 7) % 10 < 6;
    /** Wrong on every sixth row of an apiary, so that folds differ. */
    const said = (row: number): string =>
      survived(row) !== (row % (4 + byApiaryFold(row)) === 1) ? 'yes' : 'no';
    const file = (of: (row: number) => string) =>
      `colony,fold,prediction\n${all.map((row) => `c${row},${byApiaryFold(row)},${of(row)}`).join('\n')}\n`;
    const scores = Array.from({ length: 5 }, (_, fold) => {
      const rows = all.filter((row) => byApiaryFold(row) === fold + 1);
      return rows.filter((row) => said(row) === (survived(row) ? 'yes' : 'no')).length / rows.length;
    });
    const mean = scores.reduce((a, b) => a + b, 0) / 5;
    const se = Math.sqrt(scores.reduce((sum, score) => sum + (score - mean) ** 2, 0) / 4 / 5);
    const question = asked(begun('folds', { values: reports }));
    const hand = (fields: Record<string, string>, of = said) => question.hand({ ...text(file(of)), fields });

    it('are asked for in the columns that their metric needs', () => {
      expect(question.sheet().file?.columns).toEqual(['colony', 'fold', 'prediction']);
      const shares = asked(begun('folds', { values: { ...reports, metric: 'roc_auc' } }));
      expect(shares.sheet().file?.columns).toEqual(['colony', 'fold', 'probability']);
      expect(asked(begun('folds', { values })).sheet().file?.columns).toEqual(['colony', 'fold']);
    });

    it('are right where the figures reported are those of the predictions, to the digits typed', () => {
      expect(se).toBeGreaterThan(0.005);
      expect(hand({ mean: mean.toFixed(3), se: se.toFixed(3) })).toMatchObject({ holds: true, marks: 4 });
      expect(hand({ mean: `${(100 * mean).toFixed(1)} %`, se: se.toFixed(4) })).toMatchObject({ marks: 4 });
    });

    it('are found where they report a deviation for a standard error, or another mean', () => {
      expect(failing(hand({ mean: mean.toFixed(3), se: (se * Math.sqrt(5)).toFixed(3) }))).toEqual(['se']);
      expect(failing(hand({ mean: (mean + 0.02).toFixed(3), se: se.toFixed(3) }))).toEqual(['mean']);
    });

    it('far better than any reference run are evidence for staff, and cost nothing', () => {
      const curves = { run: { metric: 'accuracy', points: [{ setting: '3', mean: 0.6, se: 0.01 }] } };
      const result = asked(begun('folds', { values: reports }), material({ curves })).hand({
        ...text(file(said)),
        fields: { mean: mean.toFixed(3), se: se.toFixed(3) },
      });
      expect(failing(result)).toEqual([]);
      expect(result.marks).toBe(4);
      expect(result.judged.at(-1)?.check).toMatchObject({ id: 'evidence', outcome: 'unsure' });
    });

    it('that are all the same, or no better than that, earn nothing', () => {
      const constant = hand({ mean: '0.6', se: '0.01' }, () => 'yes');
      expect(failing(constant)).toEqual(['work']);
      expect(constant.marks).toBe(0);
      const random = hand({ mean: '0.5', se: '0.1' }, (row) => (((row * 7919) >> 3) % 2 ? 'yes' : 'no'));
      expect(failing(random)).toContain('work');
      expect(random.marks).toBe(0);
    });

    it.each([
      ['a decimal comma', { mean: '0,81', se: '0.02' }, 'has a decimal comma; write 0.81'],
      ['a unit', { mean: '0.81', se: '0.02 points' }, 'has the unit “points”'],
      ['nothing', { mean: '0.81' }, 'standard error is missing'],
    ])('and %s in what is typed are refused', (_, fields, words) => {
      const result = hand(fields);
      expect(result.holds).toBe(false);
      expect(result.checks.map(({ message }) => message).join()).toContain(words);
    });

    it('with an unknown label, or none, are refused with the line', () => {
      const result = hand({ mean: '0.8', se: '0.1' }, (row) => (row === 3 ? 'yess' : said(row)));
      expect(result.checks.find(({ id }) => id === 'labels')?.examples[0]?.text).toContain(
        'line 5: “yess” for c3',
      );
    });
  });

  it('more than there are rows are refused when the key is made', () => {
    expect(() => asked(begun('folds', { values: { ...values, k: 91 } }))).toThrow(
      '90 rows cannot make 91 folds',
    );
  });

  it('judged by a metric of another task are refused when they are composed', () => {
    const kind = questionKindOf('folds');
    expect(() =>
      kind.check(begun('folds', { values: { reports: 'predictions', metric: 'rmse' } }), SUBJECT),
    ).toThrow('does not judge this task');
    expect(at(all, 0)).toBe(0);
  });

  it('compared with a model are limited, since it is fitted for every submission', () => {
    const kind = questionKindOf('folds');
    const many = begun('folds', { values: { k: 30, reports: 'predictions', metric: 'accuracy' } });
    expect(() => kind.check(many, SUBJECT)).toThrow('at most 20 folds');
    expect(() =>
      kind.check(begun('folds', { values: { ...many.values, family: 'any' } }), SUBJECT),
    ).not.toThrow();
    expect(() =>
      kind.check(begun('folds', { values: { reports: 'predictions', settings: 'depth=3' } }), SUBJECT),
    ).toThrow('logistic has no setting “depth”');
  });
});
