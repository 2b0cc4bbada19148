import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../../test/files.js';
import { findingsOf } from '../../../audit/leaks/findings.js';
import { cellTexts, columnNamed } from '../../table/table.js';
import { newPlan } from '../../sentence/sentence.js';
import { stepKindOf } from '../registry.js';
import { prepare } from '../prepare.js';

/** A column of texts after it was converted. */
function converted(
  texts: readonly string[],
  as: string,
  more: Record<string, string | number> = {},
): string[] {
  const table = tableOf(`x,i\n${texts.map((text, i) => `"${text}",${i}`).join('\n')}\n`);
  const plan = newPlan(stepKindOf({ kind: 'convert' }), table.columns);
  const values = { ...plan.values, columns: ['x'], as, otherwise: 'missing', ...more };
  return cellTexts(columnNamed(prepare(table, [{ kind: 'convert', values }]).table, 'x'));
}

describe('reading texts as numbers', () => {
  it('takes a currency or a unit off, on either side', () => {
    expect(
      converted(
        [
          '$1000',
          '-€ 5,50',
          '12 kg',
          '1,234.5 m³',
          'USD 20',
          '7.5°C',
          '3 m/s',
          '40 %',
          'HL-12',
          'about 5',
          '$',
        ],
        'number with a currency or unit',
      ),
    ).toEqual(['1000', '-5.5', '12', '1234.5', '20', '7.5', '3', '40', '', '', '']);
  });

  it('takes a percentage with a decimal comma', () => {
    expect(converted(['37,5 %', '40%', '5 percent'], 'percentage')).toEqual(['0.375', '0.4', '']);
  });
});

describe('reading texts as dates', () => {
  it('takes two-digit years by the pivot, which steps of earlier versions lack', () => {
    expect(converted(['29-APR-50', '1.2.99'], 'date', { pivot: 30 })).toEqual(['1950-04-29', '1999-02-01']);
    const table = tableOf('x,i\n1.2.68,1\n1.2.69,2\n');
    const step = { kind: 'convert', values: { columns: ['x'], as: 'date', otherwise: 'refuse' } };
    expect(cellTexts(columnNamed(prepare(table, [step]).table, 'x'))).toEqual(['2068-02-01', '1969-02-01']);
  });

  it('takes seconds and milliseconds since 1970', () => {
    expect(converted(['1617458709', '0'], 'date, seconds')).toEqual([
      '2021-04-03T14:05:09',
      '1970-01-01T00:00:00',
    ]);
    expect(converted(['86400000', '0'], 'date, milliseconds')).toEqual(['1970-01-02', '1970-01-01']);
  });

  const found = (...texts: string[]) =>
    findingsOf(tableOf(`x,y\n${texts.map((text, i) => `"${text}",${i}`).join('\n')}\n`), {
      ...{ target: 'y', task: 'regression', positive: null, identifier: null },
      ...{ group: null, time: null, weight: null, withheld: [] },
    }).findings.find(({ message }) => message.startsWith('x holds dates'));

  it('is proposed with the order that the texts show, and never with a guess', () => {
    expect(found('1/2/2021 14:05', '25/4/2021 9:00', '3/4/2021 8:15')?.fix?.values['as']).toBe('date');
    expect(found('1/2/2021', '4/25/2021', '3/4/2021')?.fix?.values['as']).toBe('date, month before day');
    const unclear = found('1/2/2021', '3/4/2021', '5/6/2021');
    expect(unclear?.fix).toBeNull();
    expect(unclear?.message).toContain('Whether day or month comes first cannot be told from them.');
  });
});
