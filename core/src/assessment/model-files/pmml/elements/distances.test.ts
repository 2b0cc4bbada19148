import { describe, expect, it } from '@jest/globals';
import { at } from '../../../../foundation/numbers.js';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../../../test/pmml.js';

const close = (values: readonly unknown[], wanted: readonly number[], digits = 9) =>
  wanted.forEach((value, i) => expect(Number(values[i])).toBeCloseTo(value, digits));

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
