import { describe, expect, it } from '@jest/globals';
import { bytesOf } from '../../../test/files.js';
import { checkPredictions } from './predictions.js';

const rules = {
  identifier: 'colony',
  identifiers: ['HL-1', 'HL-2', 'HL-3'],
  task: 'binary',
  labels: ['lost', 'survived'],
  positive: 'survived',
  needs: 'labels',
} as const;
const checked = (text: string) => checkPredictions(bytesOf(text), 'mine.csv', rules);
const ROWS = ['HL-1,lost', 'HL-2,survived', 'HL-3,lost'];

describe('a file of predictions whose first column has no name', () => {
  it('may have the numbers of rows there', () => {
    const { checks, predictions } = checked(
      `,colony,prediction\n${ROWS.map((row, i) => `${i},${row}`).join('\n')}\n`,
    );
    expect(checks[0]).toMatchObject({ outcome: 'holds', measured: 'not used: index' });
    expect(predictions).toMatchObject({ kind: 'labels' });
  });

  it('may have the identifiers there, and says that they are taken so', () => {
    const { checks, predictions } = checked(`"",prediction\n${ROWS.join('\n')}\n`);
    expect(checks[0]?.measured).toBe('column 1 has no name and is taken for colony');
    expect(predictions).toMatchObject({ kind: 'labels' });
  });

  it('is refused where neither is so', () => {
    const { checks, predictions } = checked('"",prediction\n0,lost\n1,survived\n2,lost\n');
    expect(checks.filter(({ outcome }) => outcome === 'fails').map(({ id }) => id)).toEqual(['rows']);
    expect(predictions).toBeNull();
  });
});
