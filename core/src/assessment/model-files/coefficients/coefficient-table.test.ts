import { describe, expect, it } from '@jest/globals';
import { bytesOf, tableOf } from '../../../../test/files.js';
import { columnsFor } from '../columns.js';
import { readModel, type ReadingOptions } from '../read-model.js';

const predict = async (table: string, csv: string, options: Partial<ReadingOptions> = {}) => {
  const data = tableOf(csv);
  const columns = data.columns.map(({ name }) => name);
  const model = readModel(bytesOf(table), 'model.csv', { columns, ...options });
  return { model, ...(await model.predict(data, columnsFor(model.inputs, columns))) };
};
const DATA = 'age,stores,hive,a:b\n2,4,wood,1\n3,5,poly styrene,2\n';

describe('a table of coefficients', () => {
  it('sums numbers, levels, products, powers and logarithms', async () => {
    const { values, model } = await predict(
      'term,estimate,std.error,p\n(Intercept),1,0.1,0.02\nage,10,0,0\nage^2,0.5,,\nhive=wood,100,,\nage:stores,2,,\nlog(stores),3,,\na:b,7,,\nhive=poly styrene:age,-1,,\n',
      DATA,
    );
    const wanted = [
      1 + 20 + 2 + 100 + 16 + 3 * Math.log(4) + 7,
      1 + 30 + 4.5 + 30 + 3 * Math.log(5) + 14 - 3,
    ];
    wanted.forEach((value, i) => expect(values[i]).toBeCloseTo(value, 12));
    expect(model.inputs.map(({ name, takes }) => [name, takes])).toEqual([
      ['age', 'numbers'],
      ['hive', 'texts'],
      ['stores', 'numbers'],
      ['a:b', 'numbers'],
    ]);
    expect(model.outline).toBe('8 coefficients, identity link');
  });

  it('as R writes it, and as a spreadsheet with decimal commas does', async () => {
    const r = await predict('"","Estimate","Std. Error"\n"(Intercept)",1.5,0.2\n"I(age^2)",2,0.1\n', DATA);
    expect(r.values).toEqual([9.5, 19.5]);
    const sheet = await predict('\uFEFFTerm;Coefficient\nconst;1,5\nage;2\n', DATA);
    expect(sheet.values).toEqual([5.5, 7.5]);
  });

  it('as statistics programs name the levels of a column', async () => {
    const levels = 'term,coef\nIntercept,1\nC(hive)[T.wood],2\nhive[T.poly styrene],4\n';
    expect((await predict(levels, DATA)).values).toEqual([3, 5]);
  });

  it('with a logit gives probabilities of both classes, with a log the exponential', async () => {
    const table = 'term,estimate\n(intercept),-3\nage,1.2\n';
    const logit = await predict(table, DATA, { link: 'logit', positive: 'yes', negative: 'no' });
    const share = (sum: number) => 1 / (1 + Math.exp(-sum));
    expect(logit.values).toEqual(['no', 'yes']);
    expect(logit.probabilities?.labels).toEqual(['no', 'yes']);
    expect(logit.probabilities?.values[1]?.[0]).toBeCloseTo(share(-0.6), 12);
    expect((await predict(table, DATA, { link: 'log' })).values[0]).toBeCloseTo(Math.exp(-0.6), 12);
    await expect(predict(table, DATA, { link: 'logit' })).rejects.toThrow('names of both classes');
  });

  it('gives no prediction where a value is missing, or has no logarithm', async () => {
    const { values, problems } = await predict('term,estimate\nlog(age),1\n', 'age,b\n1,1\n0,1\n,1\n');
    expect(values).toEqual([0, null, null]);
    expect(problems.map(({ row }) => row)).toEqual([1, 2]);
  });

  it.each([
    ['age,1\n', 'needs the columns “term” and “estimate”'],
    ['term,estimate\nage,1\nage,2\n', 'Line 3 has the term “age” again, which line 2 has'],
    ['term,estimate\nage,NA\n', 'Line 2: the estimate of “age” is “NA”, which is no number'],
    ['term,estimate\nage,1e999\n', 'is “1e999”, which is no number'],
    ['term,estimate\n,1\n', 'Line 2 has no term'],
    [
      'term,estimate\nheight,1\n',
      'Line 2: the term “height” needs the column “height”, which the data do not have',
    ],
    ['term,estimate\n', 'has no term'],
    ['term,estimate\nhive,1\n', 'holds texts; write hive=LEVEL'],
  ])('is refused with its line: %j', async (table, message) => {
    await expect(predict(table, DATA)).rejects.toThrow(message);
  });
});
