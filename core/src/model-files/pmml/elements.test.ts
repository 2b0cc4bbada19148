import { describe, expect, it } from '@jest/globals';
import { at } from '../../numbers.js';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../test/pmml.js';

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

describe('<TreeModel>', () => {
  /** Computed by hand. Rows of the classes in the leaves: 30/10, 5/15, 8/32. */
  const tree = (
    attributes: string,
    first = '<SimplePredicate field="a" operator="lessOrEqual" value="1"/>',
  ) => {
    const fields: Fields = { a: 'number', b: ['u', 'v'], y: ['no', 'yes'] };
    const node = (id: string, no: number, yes: number, predicate: string, inner = '', more = '') =>
      `<Node id="${id}" score="${no > yes ? 'no' : 'yes'}" recordCount="${no + yes}" ${more}>${predicate}<ScoreDistribution value="no" recordCount="${no}"/><ScoreDistribution value="yes" recordCount="${yes}"/>${inner}</Node>`;
    const right = node(
      '3',
      13,
      47,
      '<SimplePredicate field="a" operator="greaterThan" value="1"/>',
      node(
        '4',
        5,
        15,
        '<SimpleSetPredicate field="b" booleanOperator="isIn"><Array type="string" n="1">"u"</Array></SimpleSetPredicate>',
      ) + node('5', 8, 32, '<SimplePredicate field="b" operator="equal" value="v"/>'),
    );
    return pmmlText(
      fields,
      `<TreeModel functionName="classification" ${attributes}>${schemaOf(fields)}${node('1', 43, 57, '<True/>', node('2', 30, 10, first) + right, 'defaultChild="3"')}</TreeModel>`,
    );
  };
  const rows = 'a,b\n0,u\n2,u\n2,v\n,v\n2,\n';

  it('goes where predicates hold', async () => {
    const { values, shareOf } = await predicted(tree(''), 'a,b\n0,u\n2,u\n2,v\n');
    expect(values).toEqual(['no', 'yes', 'yes']);
    close(shareOf('yes'), [0.25, 0.75, 0.8]);
  });

  it.each([
    ['none', [null, null]],
    ['nullPrediction', [null, null]],
    ['lastPrediction', [0.57, 47 / 60]],
    // The inner node has no default child.
    ['defaultChild', [0.8, null]],
    // Both branches in proportion to their rows; the right one goes on by b.
    ['weightedConfidence', [0.4 * 0.25 + 0.6 * 0.8, (20 * 0.75 + 40 * 0.8) / 60]],
    ['aggregateNodes', [(10 + 32) / 80, 47 / 60]],
  ] as const)('a missing value by %s', async (strategy, wanted) => {
    const { shareOf, values } = await predicted(tree(`missingValueStrategy="${strategy}"`), rows);
    const shares = shareOf('yes').slice(3);
    wanted.forEach((share, i) => {
      if (share === null) expect(values[3 + i]).toBeNull();
      else expect(shares[i]).toBeCloseTo(share, 12);
    });
  });

  it('keeps the last node where no child holds, if it says so', async () => {
    const never = '<False/>';
    const rowsOfOne = 'a,b\n1,u\n';
    expect((await predicted(tree('', never), rowsOfOne)).values).toEqual([null]);
    const kept = await predicted(tree('noTrueChildStrategy="returnLastPrediction"', never), rowsOfOne);
    expect(kept.values).toEqual(['yes']);
  });

  it.each([
    ['and', 'a', [true, false, false]],
    ['or', 'a', [true, true, true]],
    ['xor', 'a', [false, true, false]],
    ['surrogate', 'a', [true, false, true]],
  ] as const)('compound predicates by %s, with missing values', async (operator, _, wanted) => {
    const predicate = `<CompoundPredicate booleanOperator="${operator}"><SimplePredicate field="a" operator="lessThan" value="1"/><SimplePredicate field="b" operator="equal" value="u"/></CompoundPredicate>`;
    // "no" where the predicate holds.
    const { values } = await predicted(
      tree('noTrueChildStrategy="returnLastPrediction"', predicate),
      'a,b\n0,u\n1,u\n,u\n',
    );
    expect(values.map((value) => value === 'no')).toEqual(wanted);
  });

  it('without distributions gives each class of the dictionary a share of 0 or 1', async () => {
    const fields: Fields = { a: 'number', y: ['no', 'yes'] };
    const text = pmmlText(
      fields,
      `<TreeModel functionName="classification">${schemaOf(fields)}<Node><True/><Node score="yes"><SimplePredicate field="a" operator="isMissing"/></Node><Node score="no"><SimplePredicate field="a" operator="isNotMissing"/></Node></Node></TreeModel>`,
    );
    const { values, shareOf } = await predicted(text, 'a,z\n1,1\n,1\n');
    expect(values).toEqual(['no', 'yes']);
    expect(shareOf('yes')).toEqual([0, 1]);
  });
});

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

describe('<NeuralNetwork>', () => {
  const network = (activation: string, more = '') => {
    const fields: Fields = { a: 'number', b: 'number', y: 'number' };
    const input = (name: string, i: number) =>
      `<NeuralInput id="0,${i}"><DerivedField optype="continuous" dataType="double"><FieldRef field="${name}"/></DerivedField></NeuralInput>`;
    return pmmlText(
      fields,
      `<NeuralNetwork functionName="regression" activationFunction="${activation}" ${more}>${schemaOf(fields)}<NeuralInputs>${input('a', 0)}${input('b', 1)}</NeuralInputs>
      <NeuralLayer><Neuron id="1,0" bias="0.5"><Con from="0,0" weight="1"/><Con from="0,1" weight="-2"/></Neuron></NeuralLayer>
      <NeuralOutputs><NeuralOutput outputNeuron="1,0"><DerivedField optype="continuous" dataType="double"><FieldRef field="y"/></DerivedField></NeuralOutput></NeuralOutputs></NeuralNetwork>`,
    );
  };
  const z = 0.5 + 1 - 2 * 0.3;

  it.each([
    ['logistic', 1 / (1 + Math.exp(-z))],
    ['tanh', Math.tanh(z)],
    ['identity', z],
    ['exponential', Math.exp(z)],
    ['reciprocal', 1 / z],
    ['square', z * z],
    ['Gauss', Math.exp(-z * z)],
    ['sine', Math.sin(z)],
    ['cosine', Math.cos(z)],
    ['Elliott', z / (1 + z)],
    ['arctan', (2 * Math.atan(z)) / Math.PI],
    ['rectifier', z],
    ['threshold', 1],
  ])('activates by %s', async (activation, wanted) => {
    close((await predicted(network(activation), 'a,b\n1,0.3\n')).values, [wanted]);
  });

  it('takes radial bases by width and altitude', async () => {
    const text = network('radialBasis', 'width="2" altitude="1.5"');
    const squares = (1 - 1) ** 2 + (-2 - 0.3) ** 2;
    close((await predicted(text, 'a,b\n1,0.3\n')).values, [1.5 ** 2 * Math.exp(-squares / 8)]);
  });
});

describe('<NearestNeighborModel>', () => {
  const nearest = (attributes: string, measure: string, target: Fields[string]) => {
    const fields: Fields = { a: 'number', b: 'number', y: target };
    const rows = [
      [0, 0, 10],
      [1, 0, 20],
      [0, 3, 40],
      [5, 5, 80],
    ].map(
      ([a, b, y]) =>
        `<row><a>${a}</a><b>${b}</b><y>${target === 'number' ? y : y === 80 ? 'far' : 'near'}</y></row>`,
    );
    return pmmlText(
      fields,
      `<NearestNeighborModel functionName="${target === 'number' ? 'regression' : 'classification'}" numberOfNeighbors="3" ${attributes}>${schemaOf(fields)}<TrainingInstances><InstanceFields><InstanceField field="a" column="a"/><InstanceField field="b" column="b"/><InstanceField field="y" column="y"/></InstanceFields><InlineTable>${rows.join('')}</InlineTable></TrainingInstances><ComparisonMeasure kind="distance"><${measure}/></ComparisonMeasure><KNNInputs><KNNInput field="a"/><KNNInput field="b"/></KNNInputs></NearestNeighborModel>`,
    );
  };

  it('averages, takes the median, and weighs by distance', async () => {
    const row = 'a,b\n0,1\n';
    close((await predicted(nearest('', 'euclidean', 'number'), row)).values, [70 / 3]);
    close(
      (await predicted(nearest('continuousScoringMethod="median"', 'cityBlock', 'number'), row)).values,
      [20],
    );
    const weights = [1, Math.SQRT2, 2].map((distance) => 1 / (distance + 0.001));
    const sum = weights.reduce((a, b) => a + b, 0);
    close(
      (await predicted(nearest('continuousScoringMethod="weightedAverage"', 'euclidean', 'number'), row))
        .values,
      [(10 * at(weights, 0) + 20 * at(weights, 1) + 40 * at(weights, 2)) / sum],
    );
  });

  it('lets the nearest vote', async () => {
    const { shareOf, values } = await predicted(nearest('', 'chebychev', ['near', 'far']), 'a,b\n5,4\n');
    expect(values).toEqual(['near']);
    close(shareOf('far'), [1 / 3]);
  });
});

describe('<SupportVectorMachineModel>', () => {
  const machines = (kernel: string, body: string, attributes = '', target: Fields[string] = 'number') => {
    const fields: Fields = { a: 'number', b: 'number', y: target };
    return pmmlText(
      fields,
      `<SupportVectorMachineModel functionName="${target === 'number' ? 'regression' : 'classification'}" ${attributes}>${schemaOf(fields)}${kernel}<VectorDictionary><VectorFields><FieldRef field="a"/><FieldRef field="b"/></VectorFields><VectorInstance id="v1"><REAL-SparseArray n="2"><Indices>1 2</Indices><REAL-Entries>1 2</REAL-Entries></REAL-SparseArray></VectorInstance><VectorInstance id="v2"><Array type="real" n="2">-1 0.5</Array></VectorInstance></VectorDictionary>${body}</SupportVectorMachineModel>`,
    );
  };
  const machine = (more = '', constant = 0.25) =>
    `<SupportVectorMachine ${more}><SupportVectors><SupportVector vectorId="v1"/><SupportVector vectorId="v2"/></SupportVectors><Coefficients absoluteValue="${constant}"><Coefficient value="2"/><Coefficient value="-3"/></Coefficients></SupportVectorMachine>`;
  const row = 'a,b\n0.5,1\n';
  const [d1, d2] = [0.5 + 2, -0.5 + 0.5];

  it.each([
    ['<LinearKernelType/>', 2 * d1 - 3 * d2 + 0.25],
    [
      '<PolynomialKernelType gamma="0.5" coef0="1" degree="3"/>',
      2 * (0.5 * d1 + 1) ** 3 - 3 * (0.5 * d2 + 1) ** 3 + 0.25,
    ],
    ['<RadialBasisKernelType gamma="0.5"/>', 2 * Math.exp(-0.5 * 1.25) - 3 * Math.exp(-0.5 * 2.5) + 0.25],
    [
      '<SigmoidKernelType gamma="0.5" coef0="0.1"/>',
      2 * Math.tanh(0.5 * d1 + 0.1) - 3 * Math.tanh(0.5 * d2 + 0.1) + 0.25,
    ],
  ])('sums kernels: %s', async (kernel, wanted) => {
    close((await predicted(machines(kernel, machine()), row)).values, [wanted]);
  });

  it('says the class of a machine below its threshold, otherwise the alternative', async () => {
    const body = machine('targetCategory="no" alternateTargetCategory="yes"');
    const text = machines('<LinearKernelType/>', body, '', ['no', 'yes']);
    expect((await predicted(text, 'a,b\n0.5,1\n-2,-2\n')).values).toEqual(['yes', 'no']);
  });

  it('of one against all takes the least value, of one against one the most votes', async () => {
    const labels = ['p', 'q', 'r'];
    const all =
      machine('targetCategory="p"', 1) + machine('targetCategory="q"', -1) + machine('targetCategory="r"', 0);
    expect((await predicted(machines('<LinearKernelType/>', all, '', labels), row)).values).toEqual(['q']);
    const pair = (own: string, other: string, constant: number) =>
      machine(`targetCategory="${own}" alternateTargetCategory="${other}"`, constant);
    const pairs = pair('p', 'q', -9) + pair('p', 'r', 9) + pair('q', 'r', 9);
    const text = machines('<LinearKernelType/>', pairs, 'classificationMethod="OneAgainstOne"', labels);
    expect((await predicted(text, row)).values).toEqual(['r']);
  });
});
