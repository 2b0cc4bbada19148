import { describe, expect, it } from '@jest/globals';
import { pastedTable } from './pasted.js';

describe('what was copied in a spreadsheet', () => {
  it('is a file of tab-separated values', async () => {
    const file = pastedTable('hive\tweight\r\nA\t10\r\nB\t\r\n');
    expect(file?.name).toBe('pasted table.tsv');
    expect(await file?.text()).toBe('hive\tweight\nA\t10\nB\t\n');
  });

  it('may be a single column', async () => {
    expect(await pastedTable('weight\n10\n11')?.text()).toBe('weight\n10\n11\n');
  });

  it.each(['', 'a sentence', 'two words\nand two more\nand more', 'one\ttwo', 'a\tb\nc'])(
    '%j is no table',
    (text) => {
      expect(pastedTable(text)).toBeNull();
    },
  );
});
