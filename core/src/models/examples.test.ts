import { isOf } from './contract/state.js';
import { treeForm } from './tree/form.js';
import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../test/files.js';
import { fit } from '../../test/models.js';
import { weather } from '../../test/weather.js';
import { at } from '../foundation/numbers.js';
import { predictRows } from './fitted.js';
import { upperError } from './tree/prune.js';
import { rulesOf } from './tree/rules.js';

const oneDay = tableOf(
  'outlook,temperature,humidity,wind,play\nsunny,cool,high,strong,no\nrain,hot,high,weak,yes\n',
);

describe('worked examples of textbooks', () => {
  it.each([
    ['entropy', 0.247],
    // 0.247 over the information of a split into 5, 4 and 5 rows.
    ['gain-ratio', 0.247],
  ])(
    'play tennis by %s: outlook first, with a gain of 0.247 of 0.940 bits (Mitchell, Machine Learning, 3.4.1)',
    (criterion, gain) => {
      const { state } = fit(weather(), 'play', 'binary', 'tree', { criterion, branches: 'each' });
      const nodes = isOf(treeForm, state) ? state.nodes : [];
      expect(nodes[0]?.impurity).toBeCloseTo(0.94, 3);
      expect(nodes[0]?.split?.name).toBe('outlook');
      expect(nodes[0]?.split?.gain).toBeCloseTo(gain, 3);
    },
  );

  it('play tennis as rules: five leaves, by humidity where it is sunny and by wind where it rains (Quinlan, 1986, figure 2)', () => {
    const { state } = fit(weather(), 'play', 'binary', 'tree', { criterion: 'entropy', branches: 'each' });
    const rules = isOf(treeForm, state) ? rulesOf(state).map(({ conditions }) => conditions.join(', ')) : [];
    expect(rules).toEqual([
      'outlook is overcast',
      'outlook is rain, wind is strong',
      'outlook is rain, wind is weak',
      'outlook is sunny, humidity is high',
      'outlook is sunny, humidity is normal',
    ]);
  });

  it('play tennis by naive Bayes: a sunny, cool, humid day with strong wind is a no with 0.795 (Mitchell, 6.9.1)', () => {
    const fitted = fit(weather(), 'play', 'binary', 'naive-bayes', { laplace: 0 });
    const [no] = predictRows(fitted, oneDay, Int32Array.of(0));
    // 0.0206 / (0.0206 + 0.0053)
    expect(no?.[0]).toBeCloseTo(0.7954, 3);
  });

  it('estimated errors of C4.5: 0.206 of 6 rows without error, 0.143 of 9, 0.750 of 1 (Quinlan, C4.5, 4.2, from memory)', () => {
    expect(upperError(0, 6)).toBeCloseTo(0.206, 3);
    expect(upperError(0, 9)).toBeCloseTo(0.143, 3);
    expect(upperError(0, 1)).toBeCloseTo(0.75, 3);
  });

  it('C4.5 puts a leaf in place of a branch that promises no fewer errors', () => {
    // Votes on education spending: 6 + 9 + 1 rows, one of them republican.
    const rows = [
      ...Array.from({ length: 6 }, () => 'no,democrat'),
      ...Array.from({ length: 9 }, () => 'yes,democrat'),
      'unknown,republican',
    ];
    const table = tableOf(`spending,party\n${rows.join('\n')}\n`);
    const values = { branches: 'each', criterion: 'entropy' };
    const leaves = (errors: string) =>
      fit(table, 'party', 'binary', 'tree', { ...values, errors }).description.figures?.['leaves'];
    expect(leaves('kept')).toBe(3);
    expect(leaves('pruned')).toBe(1);
  });

  it('the first split may be forced, and what splits nothing gives way', () => {
    const root = (first: string) => {
      const { state } = fit(weather(), 'play', 'binary', 'tree', { first });
      return isOf(treeForm, state) ? at(state.nodes, 0).split?.name : '';
    };
    expect(root('temperature')).toBe('temperature');
    expect(root('')).toBe('outlook');
  });

  it('a level that was never met goes with most rows, or stops at the node', () => {
    const foggy = tableOf(
      'outlook,temperature,humidity,wind,play\nfog,cool,high,strong,no\nrain,hot,high,weak,yes\n',
    );
    const share = (missing: string) => {
      const values = { branches: 'each', criterion: 'entropy', missing };
      const fitted = fit(weather(), 'play', 'binary', 'tree', values);
      return predictRows(fitted, foggy, Int32Array.of(0))[1]?.[0];
    };
    // Rain holds as many rows as sun and comes first; strong wind is then a no.
    expect(share('most')).toBe(0);
    expect(share('stop')).toBeCloseTo(9 / 14, 12);
  });
});
