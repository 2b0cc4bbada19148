import { describe, expect, it } from '@jest/globals';
import { slipsIn } from '../contract/kind.js';
import { unreadFile, UNREAD_PREDICTION_SLIPS, type UnreadPredictions } from './unread-predictions.js';

const ids = (prefix: string, n: number) => Array.from({ length: n }, (_, i) => `${prefix}${i}`);
const LABELS = ['clover', 'heather', 'lime'];
const rules: UnreadPredictions['rules'] = {
  ...{ task: 'multiclass', labels: LABELS, positive: null, needs: 'labels' },
  ...{ identifier: 'hive', identifiers: ids('held ', 20), trainingRows: 50 },
};

/** The mistakes in a file of identifiers and cells. */
function found(
  identifiers: readonly string[],
  cell: (row: number) => string,
  by = rules,
  header = 'hive,prediction',
) {
  const text = [header, ...identifiers.map((id, row) => `${id},${cell(row)}`)].join('\n');
  const unread = unreadFile(new TextEncoder().encode(text), 'answer.csv', by);
  return unread ? slipsIn(UNREAD_PREDICTION_SLIPS, unread).map(({ id }) => id) : null;
}
const label = (row: number) => LABELS[row % 3] ?? '';

describe('a file of predictions that fails its checks', () => {
  it('is of the training rows where it has as many, and none that is held out', () => {
    expect(found(ids('own ', 50), label)).toEqual(['training-rows-predicted']);
    const { trainingRows, ...earlier } = rules;
    expect(trainingRows).toBe(50);
    expect(found(ids('own ', 50), label, earlier)).toEqual([]);
  });

  it('is not with one row more, or with one that is held out', () => {
    expect(found(ids('own ', 51), label)).toEqual([]);
    expect(found(['held 3', ...ids('own ', 49)], label)).toEqual([]);
  });

  it('is of the training rows also where numbers or probabilities are asked', () => {
    const numbers = { ...rules, task: 'regression', labels: [], needs: 'numbers' } as const;
    expect(found(ids('own ', 50), String, numbers)).toEqual(['training-rows-predicted']);
    expect(found(ids('own ', 50), () => '0.5', rules, 'hive,p:clover')).toEqual(['training-rows-predicted']);
  });

  it('has places of classes for labels, from 0 or from 1', () => {
    expect(found(ids('held ', 20), (row) => String(row % 3))).toEqual(['class-index-for-label']);
    expect(found(ids('held ', 20), (row) => String(1 + (row % 3)))).toEqual(['class-index-for-label']);
    expect(found(ids('held ', 20), (row) => String(row))).toEqual([]);
  });

  it('has numbers between classes that are numbers', () => {
    const binary = { ...rules, task: 'binary', labels: ['0', '1'], positive: '1' } as const;
    expect(found(ids('held ', 20), (row) => `0.${row + 1}7`, binary)).toEqual(['class-as-number']);
  });

  it('is looked into where it is a table alone', () => {
    expect(unreadFile(new TextEncoder().encode('hive,prediction\na,"b\n'), 'f.csv', rules)).toBeNull();
    expect(found(ids('own ', 50), label, rules, 'colony,label')).toEqual([]);
  });
});
