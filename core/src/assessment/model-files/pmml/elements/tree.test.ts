import { describe, expect, it } from '@jest/globals';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../../../test/pmml.js';

const close = (values: readonly unknown[], wanted: readonly number[], digits = 9) =>
  wanted.forEach((value, i) => expect(Number(values[i])).toBeCloseTo(value, digits));

describe('<TreeModel>', () => {
  /** Computed by hand. Rows of the classes in the leaves: 30/10, 5/15, 8/32. */
  const tree = (
    attributes: string,
    first = '<SimplePredicate field="a" operator="lessOrEqual" value="1"/>',
  ) => {
    const fields: Fields = { a: 'number', b: ['u', 'v'], y: ['no', 'yes'] };
    const node = (id: string, no: number, yes: number, predicate: string, inner = '', more = '') =>
      `<Node id="${id}" score="${no > yes ? 'no' : 'yes'}" recordCount="${no + yes}" ${more}>${predicate}<ScoreDistribution value="no" recordCount="${no}"/><ScoreDistribution value="yes" recordCount="${yes}"/>${inner}</Node>`;
    const right = node(
      '3',
      13,
      47,
      '<SimplePredicate field="a" operator="greaterThan" value="1"/>',
      node(
        '4',
        5,
        15,
        '<SimpleSetPredicate field="b" booleanOperator="isIn"><Array type="string" n="1">"u"</Array></SimpleSetPredicate>',
      ) + node('5', 8, 32, '<SimplePredicate field="b" operator="equal" value="v"/>'),
    );
    return pmmlText(
      fields,
      `<TreeModel functionName="classification" ${attributes}>${schemaOf(fields)}${node('1', 43, 57, '<True/>', node('2', 30, 10, first) + right, 'defaultChild="3"')}</TreeModel>`,
    );
  };
  const rows = 'a,b\n0,u\n2,u\n2,v\n,v\n2,\n';

  it('goes where predicates hold', async () => {
    const { values, shareOf } = await predicted(tree(''), 'a,b\n0,u\n2,u\n2,v\n');
    expect(values).toEqual(['no', 'yes', 'yes']);
    close(shareOf('yes'), [0.25, 0.75, 0.8]);
  });

  it.each([
    ['none', [null, null]],
    ['nullPrediction', [null, null]],
    ['lastPrediction', [0.57, 47 / 60]],
    // The inner node has no default child.
    ['defaultChild', [0.8, null]],
    // Both branches in proportion to their rows; the right one goes on by b.
    ['weightedConfidence', [0.4 * 0.25 + 0.6 * 0.8, (20 * 0.75 + 40 * 0.8) / 60]],
    ['aggregateNodes', [(10 + 32) / 80, 47 / 60]],
  ] as const)('a missing value by %s', async (strategy, wanted) => {
    const { shareOf, values } = await predicted(tree(`missingValueStrategy="${strategy}"`), rows);
    const shares = shareOf('yes').slice(3);
    wanted.forEach((share, i) => {
      if (share === null) expect(values[3 + i]).toBeNull();
      else expect(shares[i]).toBeCloseTo(share, 12);
    });
  });

  it('keeps the last node where no child holds, if it says so', async () => {
    const never = '<False/>';
    const rowsOfOne = 'a,b\n1,u\n';
    expect((await predicted(tree('', never), rowsOfOne)).values).toEqual([null]);
    const kept = await predicted(tree('noTrueChildStrategy="returnLastPrediction"', never), rowsOfOne);
    expect(kept.values).toEqual(['yes']);
  });

  it.each([
    ['and', 'a', [true, false, false]],
    ['or', 'a', [true, true, true]],
    ['xor', 'a', [false, true, false]],
    ['surrogate', 'a', [true, false, true]],
  ] as const)('compound predicates by %s, with missing values', async (operator, _, wanted) => {
    const predicate = `<CompoundPredicate booleanOperator="${operator}"><SimplePredicate field="a" operator="lessThan" value="1"/><SimplePredicate field="b" operator="equal" value="u"/></CompoundPredicate>`;
    // "no" where the predicate holds.
    const { values } = await predicted(
      tree('noTrueChildStrategy="returnLastPrediction"', predicate),
      'a,b\n0,u\n1,u\n,u\n',
    );
    expect(values.map((value) => value === 'no')).toEqual(wanted);
  });

  it('without distributions gives each class of the dictionary a share of 0 or 1', async () => {
    const fields: Fields = { a: 'number', y: ['no', 'yes'] };
    const text = pmmlText(
      fields,
      `<TreeModel functionName="classification">${schemaOf(fields)}<Node><True/><Node score="yes"><SimplePredicate field="a" operator="isMissing"/></Node><Node score="no"><SimplePredicate field="a" operator="isNotMissing"/></Node></Node></TreeModel>`,
    );
    const { values, shareOf } = await predicted(text, 'a,z\n1,1\n,1\n');
    expect(values).toEqual(['no', 'yes']);
    expect(shareOf('yes')).toEqual([0, 1]);
  });
});
