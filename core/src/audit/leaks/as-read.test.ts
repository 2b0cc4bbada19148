import { describe, expect, it } from '@jest/globals';
import { breastCancer, iris, tableOf } from '../../../test/files.js';
import { prepare } from '../../data/prepare/prepare.js';
import { cellTexts, columnNamed } from '../../data/table/table.js';
import { findingsOf } from './findings.js';

const found = (text: string) => findingsOf(tableOf(text), null).findings;

describe('a file that was not read as it was meant', () => {
  it('has blanks around its values, which a step trims, with the marks of missing values', () => {
    const text = 'age, work, pay\n39, State, <=50K\n50, ?, >50K\n51, State, <=50K\n31, Own, >50K\n';
    const finding = found(text).find(({ message }) => message.includes('blanks'));
    expect(finding?.message).toBe('2 columns have values with blanks around them, as “ ?”: work, pay.');
    if (!finding?.fix) throw new Error('no fix');
    const { table } = prepare(tableOf(text), [finding.fix]);
    expect(cellTexts(columnNamed(table, 'work'))).toEqual(['State', '', 'State', 'Own']);
    expect(cellTexts(columnNamed(table, 'pay'))).toEqual(['<=50K', '>50K', '<=50K', '>50K']);
    const kept = { ...finding.fix, values: { ...finding.fix.values, markers: 'kept' } };
    expect(cellTexts(columnNamed(prepare(tableOf(text), [kept]).table, 'work'))[1]).toBe('?');
  });

  it('has numbers as names of columns where its header is missing', () => {
    const message = found('5.1,3.5,1.4,setosa\n4.9,3.0,1.3,setosa\n6.1,2.9,4.7,versicolor\n').find((one) =>
      one.message.includes('no header'),
    );
    expect(message?.message).toMatch(/^The names of 3 columns are numbers, as “5.1”/);
    expect(message?.fix).toBeNull();
  });

  it.each([
    ['years as names', 'place,2019,2020,2021\na,3,5,4\nb,2,2,9\n'],
    ['one number among names', 'x,7,y\n1,2,3\n4,5,6\n'],
    ['texts under numbers', '1.5,2.5,z\na,b,1\nc,d,2\n'],
  ])('is not seen in %s', (_, text) => {
    expect(found(text).filter(({ message }) => /header|blanks/.test(message))).toEqual([]);
  });

  it('is not seen in open data', () => {
    for (const table of [iris(), breastCancer()])
      expect(findingsOf(table, null).findings.filter(({ message }) => /header|blanks/.test(message))).toEqual(
        [],
      );
  });
});

describe('before roles are set', () => {
  const rows = Array.from({ length: 60 }, (_, i) => i);
  const text = `id,seen,note,x\n${rows
    .map((i) => {
      const seen = `${(i % 28) + 1}.${1 + Math.floor(i / 28)}.2024 ${i % 24}:05`;
      return `HL-${1000 + i},${seen},a note of many words on visit ${i * 7} by the keeper who came there,${i % 5}`;
    })
    .join('\n')}\n`;
  const byColumn = (column: string, isMarked: boolean) =>
    findingsOf(
      tableOf(text),
      isMarked
        ? {
            ...{ target: 'x', task: 'regression', positive: null, identifier: null },
            ...{ group: null, time: null, weight: null, withheld: [] },
          }
        : null,
    ).findings.filter((one) => one.column === column);

  it('nobody is told to drop dates or a free text, but an identifier', () => {
    expect(byColumn('seen', false).map(({ fix }) => fix?.kind)).toEqual(['convert']);
    expect(byColumn('note', false)).toEqual([]);
    expect(byColumn('id', false).map(({ fix }) => fix?.kind)).toEqual(['drop-columns']);
  });

  it('and afterwards a text of many values is said to name rows', () => {
    expect(byColumn('seen', true).map(({ fix }) => fix?.kind)).toEqual(['convert']);
    expect(
      byColumn('note', true)
        .map(({ message }) => message)
        .join(),
    ).toMatch(/names rows|nearly names them/);
  });
});
