import { describe, expect, it } from '@jest/globals';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../../../test/pmml.js';

const close = (values: readonly unknown[], wanted: readonly number[], digits = 9) =>
  wanted.forEach((value, i) => expect(Number(values[i])).toBeCloseTo(value, digits));

describe('<RegressionModel>', () => {
  /** The sample of the specification (PMML 4.4, Regression), from memory: claims by age, salary and place of the car. */
  it('sums numbers and categories as the sample of the specification does', async () => {
    const fields: Fields = { age: 'number', salary: 'number', location: ['carpark', 'street'], y: 'number' };
    const { values } = await predicted(
      pmmlText(
        fields,
        `<RegressionModel functionName="regression">${schemaOf(fields)}<RegressionTable intercept="132.37">
          <NumericPredictor name="age" exponent="1" coefficient="7.1"/><NumericPredictor name="salary" coefficient="0.01"/>
          <CategoricalPredictor name="location" value="carpark" coefficient="41.1"/>
          <CategoricalPredictor name="location" value="street" coefficient="325.03"/></RegressionTable></RegressionModel>`,
      ),
      'age,salary,location\n40,30000,carpark\n40,30000,street\n40,30000,\n,30000,street\n',
    );
    close(values.slice(0, 3), [757.47, 1041.4, 716.37]);
    expect(values[3]).toBeNull();
  });

  it.each([
    ['none', -2, -2],
    ['softmax', -2, 1 / (1 + Math.exp(2))],
    ['logit', -2, 1 / (1 + Math.exp(2))],
    ['exp', -2, Math.exp(-2)],
    ['probit', -2, 0.022750131948179],
    ['cloglog', -2, 1 - Math.exp(-Math.exp(-2))],
    ['loglog', -2, Math.exp(-Math.exp(2))],
    ['cauchit', -2, 0.5 - Math.atan(2) / Math.PI],
  ])('normalises a number by %s', async (method, sum, wanted) => {
    const { values } = await predicted(
      pmmlText(
        { x: 'number', y: 'number' },
        `<RegressionModel functionName="regression" normalizationMethod="${method}">${schemaOf({ x: 'number', y: 'number' })}<RegressionTable intercept="0"><NumericPredictor name="x" coefficient="1"/></RegressionTable></RegressionModel>`,
      ),
      `x\n${sum}\n`,
    );
    close(values, [wanted]);
  });

  const threeClasses = (method: string) => {
    const fields: Fields = { x: 'number', y: ['a', 'b', 'c'] };
    const table = (label: string, slope: number) =>
      `<RegressionTable intercept="0.1" targetCategory="${label}"><NumericPredictor name="x" coefficient="${slope}"/></RegressionTable>`;
    return pmmlText(
      fields,
      `<RegressionModel functionName="classification" normalizationMethod="${method}">${schemaOf(fields)}${table('a', 0.2)}${table('b', 0.3)}${table('c', -0.1)}</RegressionModel>`,
    );
  };

  it('makes shares of three classes by softmax, by simplemax, and leaves the rest to the last', async () => {
    const soft = await predicted(threeClasses('softmax'), 'x\n1\n');
    const sum = Math.exp(0.3) + Math.exp(0.4) + 1;
    close(['a', 'b', 'c'].flatMap(soft.shareOf), [Math.exp(0.3) / sum, Math.exp(0.4) / sum, 1 / sum]);
    expect(soft.values).toEqual(['b']);
    const simple = await predicted(threeClasses('simplemax'), 'x\n2\n');
    close(['a', 'b', 'c'].flatMap(simple.shareOf), [0.5 / 1.1, 0.7 / 1.1, -0.1 / 1.1]);
    const none = await predicted(threeClasses('none'), 'x\n1\n');
    close(['a', 'b', 'c'].flatMap(none.shareOf), [0.3, 0.4, 0.3]);
  });

  it('of two classes gives the second the rest, with a table of its own or without', async () => {
    const fields: Fields = { x: 'number', y: ['a', 'b'] };
    const first =
      '<RegressionTable intercept="0" targetCategory="b"><NumericPredictor name="x" coefficient="1"/></RegressionTable>';
    for (const second of ['', '<RegressionTable intercept="0" targetCategory="a"/>']) {
      const text = pmmlText(
        fields,
        `<RegressionModel functionName="classification" normalizationMethod="logit">${schemaOf(fields)}${first}${second}</RegressionModel>`,
      );
      const { shareOf, values } = await predicted(text, 'x\n2\n-1\n');
      close(shareOf('b'), [1 / (1 + Math.exp(-2)), 1 / (1 + Math.exp(1))]);
      expect(values).toEqual(['b', 'a']);
    }
  });

  it('multiplies powers and products of fields', async () => {
    const fields: Fields = { a: 'number', b: 'number', y: 'number' };
    const { values } = await predicted(
      pmmlText(
        fields,
        `<RegressionModel functionName="regression">${schemaOf(fields)}<RegressionTable intercept="1">
          <NumericPredictor name="a" exponent="2" coefficient="3"/>
          <PredictorTerm coefficient="5"><FieldRef field="a"/><FieldRef field="b"/></PredictorTerm></RegressionTable></RegressionModel>`,
      ),
      'a,b\n2,7\n',
    );
    close(values, [1 + 3 * 4 + 5 * 14]);
  });
});

describe('<GeneralRegressionModel>', () => {
  const model = (type: string, attributes: string, cells: string, target: Fields[string]) => {
    const fields: Fields = { dose: 'number', sex: ['f', 'm'], y: target };
    return pmmlText(
      fields,
      `<GeneralRegressionModel modelType="${type}" functionName="${target === 'number' ? 'regression' : 'classification'}" ${attributes}>${schemaOf(fields)}
        <ParameterList><Parameter name="p0"/><Parameter name="p1"/><Parameter name="p2"/></ParameterList>
        <FactorList><Predictor name="sex"/></FactorList><CovariateList><Predictor name="dose"/></CovariateList>
        <PPMatrix><PPCell value="2" predictorName="dose" parameterName="p1"/>
          <PPCell value="1" predictorName="dose" parameterName="p2"/><PPCell value="m" predictorName="sex" parameterName="p2"/></PPMatrix>
        <ParamMatrix>${cells}</ParamMatrix></GeneralRegressionModel>`,
    );
  };
  const beta = (name: string, value: number, category = '') =>
    `<PCell parameterName="${name}" beta="${value}" ${category === '' ? '' : `targetCategory="${category}"`}/>`;
  const linear = beta('p0', 1) + beta('p1', 0.5) + beta('p2', 2);
  const rows = 'dose,sex\n2,m\n2,f\n';

  it('sums parameters: squares and an interaction with a level', async () => {
    close((await predicted(model('generalLinear', '', linear, 'number'), rows)).values, [7, 3]);
  });

  it.each([
    ['identity', '', 3],
    ['log', '', Math.exp(3)],
    ['logit', '', 1 / (1 + Math.exp(-3))],
    ['probit', '', 0.998650101968],
    ['cloglog', '', 1 - Math.exp(-Math.exp(3))],
    ['loglog', '', Math.exp(-Math.exp(-3))],
    ['cauchit', '', 0.5 + Math.atan(3) / Math.PI],
    ['inverse', '', 1 / 3],
    ['logc', '', 1 - Math.exp(3)],
    ['power', 'linkParameter="2"', Math.sqrt(3)],
    ['negbin', 'distParameter="2"', 1 / (2 * (Math.exp(-3) - 1))],
    ['oddspower', 'linkParameter="1"', 1 / (1 + 1 / 4)],
  ])('takes the inverse of the link %s', async (link, more, wanted) => {
    const text = model('generalizedLinear', `linkFunction="${link}" ${more}`, linear, 'number');
    close((await predicted(text, 'dose,sex\n2,f\n')).values, [wanted]);
  });

  it('adds an offset', async () => {
    const text = model('generalizedLinear', 'linkFunction="log" offsetVariable="dose"', linear, 'number');
    close((await predicted(text, 'dose,sex\n2,f\n')).values, [Math.exp(5)]);
  });

  it('multinomial logistic: the reference has a sum of 0', async () => {
    const cells = beta('p0', 1, 'b') + beta('p1', -0.5, 'b') + beta('p0', -1, 'c') + beta('p2', 1, 'c');
    const text = model('multinomialLogistic', 'targetReferenceCategory="a"', cells, ['a', 'b', 'c']);
    const { shareOf } = await predicted(text, 'dose,sex\n2,m\n');
    const sum = 1 + Math.exp(-1) + Math.exp(1);
    close(['a', 'b', 'c'].flatMap(shareOf), [1 / sum, Math.exp(-1) / sum, Math.exp(1) / sum]);
  });

  it('ordinal: differences of cumulative probabilities', async () => {
    const cells = beta('p0', -1, 'low') + beta('p0', 1, 'middle') + beta('p1', 0.25);
    const text = model('ordinalMultinomial', 'cumulativeLink="logit"', cells, ['low', 'middle', 'high']);
    const { shareOf } = await predicted(text, 'dose,sex\n2,f\n');
    const up = (value: number) => 1 / (1 + Math.exp(-value));
    close(['low', 'middle', 'high'].flatMap(shareOf), [up(0), up(2) - up(0), 1 - up(2)]);
  });
});
