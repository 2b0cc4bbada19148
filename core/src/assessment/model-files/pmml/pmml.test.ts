import { describe, expect, it } from '@jest/globals';
import { bytesOf } from '../../../../test/files.js';
import { pmmlText, predicted, schemaOf, type Fields } from '../../../../test/pmml.js';
import { readModel } from '../read-model.js';
import { close, NUMBERS, shows, derived } from './pmml-of-tests.js';

describe('several models', () => {
  const constant = (value: number, predicate = '<True/>', weight = 1) =>
    `<Segment weight="${weight}">${predicate}<RegressionModel functionName="regression">${schemaOf({ x: 'number' })}<RegressionTable intercept="${value}"/></RegressionModel></Segment>`;
  const numbers = (method: string, segments: string, more = '', attributes = '') =>
    pmmlText(
      NUMBERS,
      `<MiningModel functionName="regression">${schemaOf(NUMBERS)}${more}<Segmentation multipleModelMethod="${method}" ${attributes}>${segments}</Segmentation></MiningModel>`,
    );
  const below = '<SimplePredicate field="x" operator="lessThan" value="0"/>';
  const three = constant(1, '<True/>', 1) + constant(4, '<True/>', 2) + constant(10, '<True/>', 5);

  it.each([
    ['average', 5],
    ['weightedAverage', 59 / 8],
    ['sum', 15],
    ['weightedSum', 59],
    ['max', 10],
    ['median', 4],
    ['weightedMedian', 10],
    ['selectFirst', 1],
    ['modelChain', 10],
  ])('combine numbers by %s', async (method, wanted) => {
    close((await predicted(numbers(method, three), 'x\n1\n')).values, [wanted]);
  });

  it('leave out those whose predicate does not hold', async () => {
    close((await predicted(numbers('sum', constant(1) + constant(4, below)), 'x\n1\n-1\n')).values, [1, 5]);
    close(
      (await predicted(numbers('selectFirst', constant(4, below) + constant(1)), 'x\n1\n-1\n')).values,
      [1, 4],
    );
  });

  it('skip one that says nothing, only where they say so', async () => {
    const silent = `<Segment><True/><RegressionModel functionName="regression">${schemaOf({ x: 'number' })}<RegressionTable intercept="0"><NumericPredictor name="x" coefficient="1"/></RegressionTable></RegressionModel></Segment>`;
    close((await predicted(numbers('sum', constant(1) + silent), 'x,z\n,1\n')).values, [null]);
    const skipping = numbers('sum', constant(1) + silent, '', 'missingPredictionTreatment="skipSegment"');
    close((await predicted(skipping, 'x,z\n,1\n')).values, [1]);
  });

  it('rescale, bound and round the sum by their targets', async () => {
    const targets = (more: string) => numbers('sum', three, `<Targets><Target field="y" ${more}/></Targets>`);
    close((await predicted(targets('rescaleFactor="2" rescaleConstant="0.4"'), 'x\n1\n')).values, [30.4]);
    close(
      (await predicted(targets('rescaleFactor="2" rescaleConstant="0.4" castInteger="round"'), 'x\n1\n'))
        .values,
      [30],
    );
    close((await predicted(targets('max="7"'), 'x\n1\n')).values, [7]);
  });

  const CLASSES: Fields = { x: 'number', y: ['a', 'b'] };
  const votes = (method: string) => {
    const segment = (a: number, b: number, weight: number) =>
      `<Segment weight="${weight}"><True/><TreeModel functionName="classification">${schemaOf({ x: 'number' })}<Node score="${a > b ? 'a' : 'b'}"><True/><ScoreDistribution value="a" recordCount="${a}"/><ScoreDistribution value="b" recordCount="${b}"/></Node></TreeModel></Segment>`;
    return pmmlText(
      CLASSES,
      `<MiningModel functionName="classification">${schemaOf(CLASSES)}<Segmentation multipleModelMethod="${method}">${segment(9, 1, 1)}${segment(4, 6, 1)}${segment(3, 7, 3)}</Segmentation></MiningModel>`,
    );
  };

  it.each([
    ['majorityVote', 1 / 3, 'b'],
    ['weightedMajorityVote', 1 / 5, 'b'],
    ['average', 1.6 / 3, 'a'],
    ['weightedAverage', (0.9 + 0.4 + 0.9) / 5, 'b'],
    ['max', 0.9, 'a'],
    ['median', 0.4, 'b'],
  ])('combine classes by %s', async (method, share, label) => {
    const { values, shareOf } = await predicted(votes(method), 'x\n1\n');
    close(shareOf('a'), [share]);
    expect(values).toEqual([label]);
  });

  it('as a chain hand on what the earlier ones put out: boosting with a logit', async () => {
    const text = pmmlText(
      CLASSES,
      `<MiningModel functionName="classification">${schemaOf(CLASSES)}<Segmentation multipleModelMethod="modelChain">
        <Segment><True/><MiningModel functionName="regression">${schemaOf({ x: 'number' })}<Output><OutputField name="sum" feature="predictedValue" dataType="double" optype="continuous" isFinalResult="false"/></Output>
          <Segmentation multipleModelMethod="sum">${constant(1)}${constant(-3, below)}</Segmentation></MiningModel></Segment>
        <Segment><True/><RegressionModel functionName="classification" normalizationMethod="logit"><MiningSchema><MiningField name="sum"/></MiningSchema>
          <RegressionTable intercept="0" targetCategory="b"><NumericPredictor name="sum" coefficient="1"/></RegressionTable><RegressionTable intercept="0" targetCategory="a"/></RegressionModel></Segment>
      </Segmentation></MiningModel>`,
    );
    const { values, shareOf } = await predicted(text, 'x\n1\n-1\n');
    close(shareOf('b'), [1 / (1 + Math.exp(-1)), 1 / (1 + Math.exp(2))]);
    expect(values).toEqual(['b', 'a']);
  });
});

describe('files', () => {
  const read = (text: string) => readModel(bytesOf(text), 'model.pmml', { columns: [] });
  const simple = shows('x', '');

  it('of namespaces 4.2 and 4.3, with extensions, prefixes and other encodings are read', async () => {
    for (const version of ['4_2', '4_3']) {
      const text = simple
        .replaceAll('4_4', version)
        .replace('version="4.4"', `version="${version.replace('_', '.')}"`);
      close((await predicted(text, 'x\n2\n')).values, [2]);
    }
    const extended = simple
      .replace(
        '<RegressionTable ',
        '<Extension name="a" value="b"><anything><x/></anything></Extension><RegressionTable x-note="1" ',
      )
      .replace(
        '<Header/>',
        '<Header><Application name="any"/></Header><other:note xmlns:other="urn:other"><RegressionTable/></other:note>',
      );
    close((await predicted(extended, 'x\n2\n')).values, [2]);
    const prefixed = simple.replace('xmlns=', 'xmlns:p=').replace(/<(\/?)([A-Z])/g, '<$1p:$2');
    close((await predicted(prefixed, 'x\n2\n')).values, [2]);
    const latin = shows('größe', '', { größe: 'number', y: 'number' })
      .replace('?>', ' encoding="ISO-8859-1"?>')
      .replace('version="1.0"?', 'version="1.0" ?');
    const model = readModel(Buffer.from(latin, 'latin1'), 'model.pmml', { columns: [] });
    expect(model.inputs[0]?.name).toBe('größe');
  });

  const nested = (depth: number) =>
    `<PMML version="4.4">${'<Node>'.repeat(depth)}${'</Node>'.repeat(depth)}</PMML>`;
  it.each([
    ['a document type', `<!DOCTYPE PMML [<!ENTITY a "aaaa">]>${simple.replace(/^.*?\?>/, '')}`, 'DOCTYPE'],
    ['an external entity', simple.replace('?>', '?><!DOCTYPE PMML SYSTEM "file:///etc/passwd">'), 'DOCTYPE'],
    [
      'an entity of its own',
      simple.replace('<Header/>', '<Header>&lol;</Header>'),
      'cannot be read: undefined entity',
    ],
    ['60,000 nested elements', nested(60_000), 'nested more than 400 deep'],
    ['a file that is cut off', simple.slice(0, 300), 'cannot be read: unclosed tag'],
    ['other XML', '<html><body/></html>', 'no PMML: it begins with <html>'],
    ['another version', simple.replace('version="4.4"', 'version="3.2"'), '3.2 is not supported'],
    ['no model', pmmlText(NUMBERS, ''), 'has no model'],
    ['two models', simple.replace('</PMML>', '<RegressionModel/></PMML>'), 'a second model'],
    [
      'another kind of model',
      simple.replaceAll('RegressionModel', 'ClusteringModel'),
      'Line 1: <ClusteringModel> is not supported',
    ],
    [
      'an unknown function',
      shows('d', derived('<Apply function="formatDatetime"><FieldRef field="x"/></Apply>')),
      'the function “formatDatetime”',
    ],
    ['dates', simple.replace('dataType="double"', 'dataType="date"'), 'dataType="date"'],
    [
      'a field that is not there',
      simple.replace('name="x" coefficient', 'name="z" coefficient'),
      'the field “z”',
    ],
    [
      'a weight that is no number',
      simple.replace('coefficient="1"', 'coefficient="NaN"'),
      'no finite number',
    ],
  ])('with %s are refused', (_, text, message) => {
    expect(() => read(text)).toThrow(message);
  });

  it('are refused with the line', () => {
    let place: unknown;
    try {
      read(
        simple
          .replace('<RegressionTable', '\n\n<RegressionTable')
          .replace('coefficient="1"', 'coefficient="x"'),
      );
    } catch (error) {
      place = (error as { place: unknown }).place;
    }
    expect(place).toEqual({ line: 3 });
  });
});
