import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { tableOf } from '../../../test/files.js';
import { cellText } from '../table/table.js';
import { columnOf, truthOf } from './formula.js';

const table = tableOf(
  'weight,mean temp,kind,seen,alive\n10,1.5,log,2026-03-01,true\n4,,skep,2026-03-11,false\n,2,,,\n',
);
const computed = (formula: string): (string | null)[] => {
  const column = columnOf(table, formula, 'new', 'formula');
  return [0, 1, 2].map((row) => cellText(column, row));
};

describe('formulas', () => {
  it.each([
    ['weight * 2 + 1', ['21', '9', null]],
    ['weight / 0', [null, null, null]],
    ['-weight ^ 2', ['100', '16', null]],
    ['2 ^ 3 ^ 2', ['512', '512', '512']],
    ['-7 % 3', ['2', '2', '2']],
    ['weight + col("mean temp")', ['11.5', null, null]],
    ['weight > 5', ['true', 'false', null]],
    ['kind == "log" or weight > 3', ['true', 'true', null]],
    ['kind == "log" and weight > 30', ['false', 'false', null]],
    ['not alive', ['false', 'true', null]],
    ['missing(kind) or missing(weight)', ['false', 'false', 'true']],
    ['if(missing(weight), 0, weight)', ['10', '4', '0']],
    ['weight > 5 ? "heavy" : "light"', ['heavy', 'light', null]],
    ['seen - seen', ['0', '0', null]],
    ['seen > "2026-03-05"', ['false', 'true', null]],
    ['max(weight, 7, 2)', ['10', '7', null]],
    ['round(2.5) + round(3.5)', ['6', '6', '6']],
    ['log(exp(weight))', ['10', '4', null]],
    ['upper(kind)', ['LOG', 'SKEP', null]],
    ['replace(kind, "e", "oo")', ['log', 'skoop', null]],
    ['part(kind, 2, 2)', ['og', 'ke', null]],
    ['part(kind, 9, 2)', [null, null, null]],
    ['length(kind) + 1', ['4', '5', null]],
    ['contains(kind, "k") or starts(kind, "l")', ['true', 'true', null]],
    ['ends(lower(trim("  OG ")), "g") and ends(kind, "g")', ['true', 'false', null]],
    ['number(replace("12 kg", " kg", "")) + weight', ['22', '16', null]],
    ['seen', ['2026-03-01', '2026-03-11', null]],
  ])('%s', (formula, expected) => {
    expect(computed(formula)).toEqual(expected);
  });

  it.each([
    ['', 'A formula is needed.'],
    ['weight +', 'cannot be read at character 9'],
    ['weight = 3', 'Two values are compared with ==.'],
    ['wieght * 2', 'There is no column “wieght”; the nearest is “weight”.'],
    ['kind + 1', '+ needs a number, and this is a text.'],
    ['kind == 1', '“==” compares a text with a number'],
    ['weight and alive', 'and needs true or false, and this is a number.'],
    ['seen > "yesterday"', '“yesterday” is no date'],
    ['if(alive, 1, "no")', 'must be alike'],
    ['sin(weight)', 'There is no function “sin”; there are abs'],
    ['sqrt(1, 2)', 'sqrt takes 1 numbers.'],
    ['trim(weight)', 'trim takes a text.'],
    ['replace(kind, "a")', 'replace takes a text, a text, a text.'],
    ['mean temp', 'a column with blanks in its name is written col("its name")'],
    ['weight.constructor', 'nothing else'],
    ['constructor', 'There is no column “constructor”'],
    ['toString(weight)', 'There is no function “toString”'],
    ['[1, 2]', 'nothing else'],
    ['null', 'missing(column)'],
    ['('.repeat(3000), 'at most 2000 characters'],
  ])('say what is wrong with %j', (formula, message) => {
    expect(() => columnOf(table, formula, 'new', 'formula')).toThrow(
      expect.objectContaining({ code: 'formula', message: expect.stringContaining(message) }),
    );
  });

  it('as conditions have to compare something', () => {
    expect([...truthOf(table, 'weight >= 4', 'condition')]).toEqual([1, 1, NaN]);
    expect(() => truthOf(table, 'weight + 1', 'condition')).toThrow('A condition compares something');
  });

  it('never end in anything but a column or an error that says why, whatever is written', () => {
    const part = fc.constantFrom(
      'weight',
      'kind',
      'alive',
      'seen',
      '1',
      '"a"',
      '+',
      '-',
      '*',
      '^',
      '==',
      '<',
      'and',
      'not',
      '(',
      ')',
      ',',
      'if',
      'max',
      '?',
      ':',
      '.',
      '[',
      ']',
      '`',
      '=>',
      ';',
      'this',
      '__proto__',
      'null',
      '0x',
      "'",
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 9 }), fc.string({ maxLength: 12 }), (parts, odd) => {
        for (const formula of [parts.join(' '), parts.join(''), odd]) {
          try {
            columnOf(table, formula, 'new', 'formula');
          } catch (error) {
            expect(error).toMatchObject({ code: 'formula', place: { field: 'formula' } });
          }
        }
      }),
      { numRuns: 2000 },
    );
  });
});
