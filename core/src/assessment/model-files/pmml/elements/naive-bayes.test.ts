import { describe, expect, it } from '@jest/globals';
import { at } from '../../../../foundation/numbers.js';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../../../test/pmml.js';

const close = (values: readonly unknown[], wanted: readonly number[], digits = 9) =>
  wanted.forEach((value, i) => expect(Number(values[i])).toBeCloseTo(value, digits));

describe('<NaiveBayesModel>', () => {
  /** The sample of the specification (PMML 4.4, Naive Bayes), from memory: claims; counts other than the given ones are rests. */
  it('multiplies counts as the sample of the specification does', async () => {
    const labels = ['100', '500', '1000', '5000', '10000'];
    const fields: Fields = { gender: ['male', 'female'], claims: ['0', '2'], age: ['old', 'new'], y: labels };
    const counts = (values: readonly number[]) =>
      `<TargetValueCounts>${values.map((n, i) => `<TargetValueCount value="${labels[i]}" count="${n}"/>`).join('')}</TargetValueCounts>`;
    const input = (name: string, value: string, other: string, own: number[], totals: number[]) =>
      `<BayesInput fieldName="${name}"><PairCounts value="${value}">${counts(own)}</PairCounts><PairCounts value="${other}">${counts(totals.map((total, i) => total - (own[i] ?? 0)))}</PairCounts></BayesInput>`;
    const text = pmmlText(
      fields,
      `<NaiveBayesModel functionName="classification" threshold="0.001">${schemaOf(fields)}<BayesInputs>${input(
        'gender',
        'male',
        'female',
        [4273, 1321, 780, 405, 42],
        [8598, 2533, 1522, 697, 90],
      )}${input('claims', '2', '0', [225, 10, 9, 0, 10], [8561, 2436, 1496, 690, 98])}${input(
        'age',
        'new',
        'old',
        [830, 182, 51, 26, 6],
        [8008, 2266, 1191, 699, 87],
      )}</BayesInputs><BayesOutput fieldName="y">${counts([8723, 2557, 1530, 709, 100])}</BayesOutput></NaiveBayesModel>`,
    );
    const { shareOf, values } = await predicted(text, 'gender,claims,age\nmale,2,new\n');
    const likelihoods = [
      (((8723 * 4273) / 8598) * 225 * 830) / (8561 * 8008),
      (((2557 * 1321) / 2533) * 10 * 182) / (2436 * 2266),
      (((1530 * 780) / 1522) * 9 * 51) / (1496 * 1191),
      ((709 * 405) / 697) * 0.001 * (26 / 699),
      (((100 * 42) / 90) * 10 * 6) / (98 * 87),
    ];
    const sum = likelihoods.reduce((a, b) => a + b, 0);
    close(
      labels.flatMap(shareOf),
      likelihoods.map((one) => one / sum),
    );
    expect(values).toEqual(['100']);
  });

  it('takes densities of Gauss and Poisson, and leaves a missing value out', async () => {
    const fields: Fields = { size: 'number', calls: 'number', y: ['a', 'b'] };
    const stat = (name: string, a: string, b: string) =>
      `<BayesInput fieldName="${name}"><TargetValueStats><TargetValueStat value="a">${a}</TargetValueStat><TargetValueStat value="b">${b}</TargetValueStat></TargetValueStats></BayesInput>`;
    const text = pmmlText(
      fields,
      `<NaiveBayesModel functionName="classification" threshold="0">${schemaOf(fields)}<BayesInputs>${stat('size', '<GaussianDistribution mean="1" variance="4"/>', '<GaussianDistribution mean="3" variance="1"/>')}${stat('calls', '<PoissonDistribution mean="2"/>', '<PoissonDistribution mean="5"/>')}</BayesInputs><BayesOutput fieldName="y"><TargetValueCounts><TargetValueCount value="a" count="3"/><TargetValueCount value="b" count="1"/></TargetValueCounts></BayesOutput></NaiveBayesModel>`,
    );
    const normal = (x: number, mean: number, sd: number) =>
      Math.exp(-((x - mean) ** 2) / (2 * sd * sd)) / (sd * Math.sqrt(2 * Math.PI));
    const poisson = (k: number, mean: number) => (Math.exp(-mean) * mean ** k) / at([1, 1, 2, 6, 24], k);
    const a = 3 * normal(2, 1, 2);
    const b = normal(2, 3, 1);
    const both = [a * poisson(4, 2), b * poisson(4, 5)] as const;
    const { shareOf } = await predicted(text, 'size,calls\n2,4\n2,\n');
    close(shareOf('a'), [both[0] / (both[0] + both[1]), a / (a + b)]);
  });
});
