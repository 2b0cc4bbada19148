import { describe, expect, it } from '@jest/globals';
import { columnNamed, labelsOf, profileTable, readCsv } from '@modest-sieve/core/data';
import { overwinteringCsv } from './overwintering.js';

describe('the overwintering table', () => {
  const csv = overwinteringCsv();
  const { table, notes } = readCsv(new TextEncoder().encode(csv), { file: 'overwintering.csv' });
  const profile = new Map(profileTable(table, notes).map((column) => [column.name, column]));

  it('is the same every time it is made', () => {
    expect(overwinteringCsv()).toBe(csv);
  });

  it('has about 1,500 colonies at 24 apiaries, about 72 % of which survived', () => {
    expect(table.rowCount).toBe(1512);
    expect(profile.get('apiary')?.distinct).toBe(24);
    const { labels, codes } = labelsOf(columnNamed(table, 'survived'));
    const labelled = codes.filter((code) => code >= 0);
    const share = labelled.filter((code) => labels[code] === 'yes').length / labelled.length;
    expect(share).toBeGreaterThan(0.68);
    expect(share).toBeLessThan(0.76);
  });

  it('has the flaws it was made for: repeats, blanks, unlabelled rows, two ways to say no', () => {
    expect(new Set(csv.trim().split('\n')).size).toBe(1513 - 9);
    expect(profile.get('mite_wash')?.missing).toBeGreaterThan(30);
    expect(profile.get('survived')?.missing).toBeGreaterThan(15);
    expect(
      profile
        .get('feeder')
        ?.top.map((level) => level.value)
        .sort(),
    ).toEqual(['no', 'no feeder fitted', 'yes']);
  });
});
