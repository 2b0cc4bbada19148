import { describe, expect, it } from '@jest/globals';
import { asked, begun, fileOf } from '../../../test/asked.js';
import { bytesOf } from '../../../test/files.js';
import { check, LONGEST_TEXT } from '../../foundation/check.js';
import { largestFile, limitsCheck } from './file-limits.js';

const rules = { identifiers: Array.from({ length: 100 }, (_, i) => `c${i}`), labels: ['no', 'yes'] };
const found = (text: string) => limitsCheck(bytesOf(text), 'mine.csv', rules);

describe('a file', () => {
  it('of a hundred rows may take 121 kB, not megabytes', () => {
    expect(largestFile(rules)).toBe(65_536 + 100 * (512 + 2 * 32));
    expect(found('x'.repeat(10) + '\n'.repeat(130_000))).toMatchObject({ id: 'size', measured: '0.1 MB' });
  });

  it('with a line that no answer has is not looked into, whichever end lines have', () => {
    for (const end of ['\n', '\r\n', '\r'])
      expect(found(`id,prediction${end}c1,${'y'.repeat(20_000)}${end}`)).toMatchObject({
        id: 'line-length',
        message: 'Line 2 of mine.csv is longer than any line of an answer.',
      });
    expect(found('z'.repeat(20_000))?.message).toContain('Line 1 ');
  });

  it('may have a line as long as the longest, and no longer', () => {
    const line = (length: number) => found(`id,prediction\n${'y'.repeat(length)}\nc2,no\n`);
    const longest =
      Array.from({ length: 40 }, (_, i) => (i + 1) * 512)
        .filter((length) => !line(length))
        .at(-1) ?? 0;
    expect(longest).toBe(16_384);
    expect([line(longest), line(longest + 1)?.id]).toEqual([null, 'line-length']);
  });

  it('with too many columns is refused by their number', () => {
    expect(found(`${'a,'.repeat(600)}b\n`)).toMatchObject({ id: 'columns', measured: '601 columns' });
    expect(found(`${'a,'.repeat(300)}b\n`)).toBeNull();
  });

  it('that an honest student hands in is within all limits: all features beside the prediction', () => {
    const cells = Array.from({ length: 30 }, () => '123.4567').join();
    expect(
      found(`id,prediction\n${rules.identifiers.map((id) => `${id},yes,${cells}`).join('\n')}\n`),
    ).toBeNull();
  });
});

describe('what a check quotes', () => {
  it('is cut, wherever it is', () => {
    const long = 'q'.repeat(5000);
    const one = check('x', 'fails', long, {
      measured: long,
      expected: long,
      examples: [{ line: 1, column: null, text: long }],
    });
    expect(JSON.stringify(one).length).toBeLessThan(4 * LONGEST_TEXT + 200);
    expect(one.message.endsWith('…')).toBe(true);
  });

  it('stays small for every kind of question, whatever a file holds', () => {
    const cell = 'w'.repeat(15_000);
    for (const kind of ['predictions', 'split', 'folds', 'curve', 'values'] as const) {
      const { hand } = asked(begun(kind));
      for (const text of [`${cell}\n1\n`, `colony,part,prediction,fold\n${cell},${cell}\n`, `"${cell}`])
        expect(JSON.stringify(hand({ file: fileOf(text) })).length).toBeLessThan(8000);
    }
  });
});
