import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { format } from 'date-fns/format';
import { UTCDate } from '@date-fns/utc';
import { dateReader, datesIn, sinceEpoch, USUAL_PIVOT } from './dates.js';

const byDay = dateReader('day', USUAL_PIVOT);
const byMonth = dateReader('month', USUAL_PIVOT);
const iso = (value: number) => (Number.isNaN(value) ? 'none' : new Date(value).toISOString());

describe('a date in a text', () => {
  it.each([
    ['2008-05-24', '2008-05-24T00:00:00.000Z'],
    ['2022/01/03', '2022-01-03T00:00:00.000Z'],
    ['20080524', '2008-05-24T00:00:00.000Z'],
    ['24.05.2008', '2008-05-24T00:00:00.000Z'],
    ['24.05.2008 14:05', '2008-05-24T14:05:00.000Z'],
    ['3/4/2021 2:05 pm', '2021-04-03T14:05:00.000Z'],
    ['3/4/2021 12:30 AM', '2021-04-03T00:30:00.000Z'],
    ['29-APR-50 14:45:00', '2050-04-29T14:45:00.000Z'],
    ['29-APR-71', '1971-04-29T00:00:00.000Z'],
    ['3 April 2021', '2021-04-03T00:00:00.000Z'],
    ['April 3, 2021 14:05:09', '2021-04-03T14:05:09.000Z'],
    ['Sep 3 2021', '2021-09-03T00:00:00.000Z'],
    ['2021-04-03T14:05:09.25', '2021-04-03T14:05:09.250Z'],
    ['2021-04-03 14:05:09,123456', '2021-04-03T14:05:09.123Z'],
    ['2021-04-03T01:05:09+02:00', '2021-04-02T23:05:09.000Z'],
    ['2021-04-03T14:05-0330', '2021-04-03T17:35:00.000Z'],
    // In a place that changes its clocks this time does not exist: here it does.
    ['28.03.2021 02:30', '2021-03-28T02:30:00.000Z'],
    ['29.2.2020', '2020-02-29T00:00:00.000Z'],
  ])('%s is read as %s', (text, expected) => {
    expect(iso(byDay(text))).toBe(expected);
  });

  it.each([
    '29.2.2021',
    '31/4/2021',
    '13:00',
    '2021-13-01',
    '3/4',
    '12',
    '2021',
    '3.4.',
    '1.5',
    'HL-0001',
    'may',
    '5 m/s',
    '',
    '24.05.2008 25:00',
    '3/4/2021 13:05 pm',
    '2024013',
    '1-2-3',
    'version 1.2.2021 beta',
  ])('%s is none', (text) => {
    // prettier-ignore
    expect(iso(byDay(text))).toBe('none');
  });

  it('has the month first where that is chosen, and the year of two digits where the pivot says', () => {
    expect(iso(byMonth('3/4/2021'))).toBe('2021-03-04T00:00:00.000Z');
    expect(iso(byMonth('12/31/99 11:59 pm'))).toBe('1999-12-31T23:59:00.000Z');
    expect(iso(byMonth('31/12/2021'))).toBe('none');
    expect(iso(dateReader('day', 30)('29-APR-50'))).toBe('1950-04-29T00:00:00.000Z');
    expect(iso(dateReader('day', 100)('29.4.99'))).toBe('2099-04-29T00:00:00.000Z');
  });

  it('is read back in every form that it is written in, by date-fns', () => {
    const days = [
      'yyyy-MM-dd',
      'yyyy/M/d',
      'd.M.yyyy',
      'dd/MM/yyyy',
      'd MMM yyyy',
      'dd-MMM-yyyy',
      'MMMM d, yyyy',
      'yyyyMMdd',
    ];
    const times = ['', ' HH:mm', ' H:mm:ss', ' h:mm a', ' hh:mm:ss a', ' HH:mm:ss.SSS'];
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1000-01-01'), max: new Date('9999-12-31'), noInvalidDate: true }),
        fc.constantFrom(...days),
        fc.constantFrom(...times),
        (date, day, time) => {
          const unit =
            time === '' ? 86_400_000 : time.includes('SSS') ? 1 : time.includes('ss') ? 1000 : 60_000;
          const value = Math.floor(date.getTime() / unit) * unit;
          const text = format(new UTCDate(value), day + time);
          expect(`${text} ${iso(byDay(text))}`).toBe(`${text} ${iso(value)}`);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it('may be seconds or milliseconds since 1970', () => {
    expect(iso(sinceEpoch('seconds')('1617458709.5'))).toBe('2021-04-03T14:05:09.500Z');
    expect(iso(sinceEpoch('milliseconds')('1617458709000'))).toBe('2021-04-03T14:05:09.000Z');
    expect([sinceEpoch('seconds')(''), sinceEpoch('seconds')('now'), sinceEpoch('seconds')('1e30')]).toEqual([
      NaN,
      NaN,
      NaN,
    ]);
  });
});

describe('texts that are dates', () => {
  it('say which of day and month comes first where they can', () => {
    expect(datesIn(['1/2/2021', '3/4/2021', '25/4/2021'], 0.95)?.reading).toBe('day');
    expect(datesIn(['1/2/2021', '3/4/2021', '4/25/2021'], 0.95)?.reading).toBe('month');
    expect(datesIn(['1/2/2021', '3/4/2021'], 0.95)?.reading).toBe('either');
    expect(datesIn(['2021/1/2', '3 April 2021'], 0.95)?.reading).toBe('day');
    expect(datesIn(['3/3/2021', '4/4/2021'], 0.95)?.reading).toBe('day');
    expect(datesIn(['a', 'b', '1/2/2021'], 0.95)).toBeNull();
  });
});
