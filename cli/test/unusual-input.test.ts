import { describe, expect, it } from '@jest/globals';
import { Folder } from './sieve.js';

describe('unusual input that is read', () => {
  const profiled = (content: string) => {
    const folder = new Folder();
    folder.write('x.csv', content);
    return folder.json(['profile', 'x.csv'])['columns'] as Record<string, unknown>[];
  };

  it('decimal commas are recognised and said; those that could part thousands are not read as numbers', () => {
    expect(profiled('a;b;c\n1,5;1,234;1,234.5\n2,25;2,345;2,345.5\n')).toMatchObject([
      { type: 'number', mean: 1.875, note: 'decimal commas were read as points, the first “1,5” on line 2' },
      {
        type: 'category',
        note: 'kept as text: “1,234” on line 2 may have a decimal comma or commas between thousands',
      },
      {
        type: 'category',
        note: 'kept as text: 2 cells with commas between thousands, the first “1,234.5” on line 2',
      },
    ]);
  });

  it('lines that end in two ways, and dates written in two ways', () => {
    expect(profiled('d,x\r\n2024-05-01,1\n01.06.2024,2\r\n2024-07-01,3\n')).toMatchObject([
      {
        type: 'category',
        note: 'kept as text: dates are written in more ways than one, “2024-05-01” on line 2 and “01.06.2024” on line 3',
      },
      { type: 'number', max: 3 },
    ]);
  });

  it('columns called like properties of objects, numbers beyond 2^53, a constant, a column without values', () => {
    expect(
      profiled('__proto__,constructor,big,same,none\na,1,9007199254740993,5,\nb,2,9007199254740995,5,NA\n'),
    ).toMatchObject([
      { name: '__proto__', type: 'category' },
      { name: 'constructor', type: 'number' },
      { name: 'big', type: 'category', note: 'kept as text: 2 cells would lose digits as a number' },
      { name: 'same', distinct: 1, skewness: null },
      { name: 'none', missing: 2, mean: null },
    ]);
  });

  it('ten thousand classes', () => {
    const rows = Array.from({ length: 20_000 }, (_, i) => `${i},c${i % 10_000}`);
    const folder = new Folder();
    folder.write('x.csv', `id,c\n${rows.join('\n')}\n`);
    const folds = folder.json(['folds', 'x.csv', '--k', '2', '--stratify', 'c', '--seed', '1'])['folds'];
    expect(folds).toMatchObject([{ rows: 10_000 }, { rows: 10_000 }]);
  });

  it('an infinite value is said to be one', () => {
    const values = [...Array.from({ length: 9 }, (_, i) => String(i)), 'inf'];
    expect(profiled(`x\n${values.join('\n')}\n`)[0]?.['note']).toBe(
      '1 of 10 cells are not numbers, the first “inf” on line 11, which is infinite',
    );
  });
});
