import { describe, expect, it } from '@jest/globals';
import { predicted, schemaOf, type Fields } from '../../../../test/pmml.js';
import { close, NUMBERS, shows, derived } from './pmml-of-tests.js';

describe('transformations', () => {
  const norm =
    '<LinearNorm orig="0" norm="1"/><LinearNorm orig="10" norm="3"/><LinearNorm orig="20" norm="0"/>';
  it.each([
    ['asIs', [0.8, 2, 1.5, -3]],
    ['asExtremeValues', [1, 2, 1.5, 0]],
    ['asMissingValues', [null, 2, 1.5, null]],
  ] as const)('NormContinuous is piecewise linear, outliers %s', async (outliers, wanted) => {
    const text = shows(
      'd',
      derived(`<NormContinuous field="x" outliers="${outliers}">${norm}</NormContinuous>`),
    );
    close((await predicted(text, 'x\n-1\n5\n15\n30\n')).values, wanted);
  });

  it('NormDiscrete, Discretize and MapValues map texts and intervals', async () => {
    const fields: Fields = { c: ['u', 'v'], x: 'number', y: 'number' };
    const of = (body: string, more?: string) => shows('d', derived(body, more), fields);
    const rows = 'c,x\nu,1\nv,2\n,3\n';
    close(
      (await predicted(of('<NormDiscrete field="c" value="u" mapMissingTo="0.5"/>'), rows)).values,
      [1, 0, 0.5],
    );
    const bins = `<Discretize field="x" dataType="double" defaultValue="9"><DiscretizeBin binValue="10"><Interval closure="openClosed" rightMargin="1"/></DiscretizeBin><DiscretizeBin binValue="20"><Interval closure="openOpen" leftMargin="1" rightMargin="3"/></DiscretizeBin></Discretize>`;
    close((await predicted(of(bins), rows)).values, [10, 20, 9]);
    const map = `<MapValues outputColumn="out" dataType="double" mapMissingTo="-1"><FieldColumnPair field="c" column="in"/><InlineTable><row><in>u</in><out>7</out></row><row><in>v</in><out>8</out></row></InlineTable></MapValues>`;
    close((await predicted(of(map), rows)).values, [7, 8, -1]);
  });

  const apply = (name: string, ...operands: (string | number)[]) =>
    `<Apply function="${name}">${operands.map((one) => (one === 'x' ? '<FieldRef field="x"/>' : String(one).startsWith('<') ? one : `<Constant>${one}</Constant>`)).join('')}</Apply>`;

  it.each([
    [apply('+', 'x', 2), 4.5],
    [apply('-', 'x', 2), 0.5],
    [apply('*', 'x', 2), 5],
    [apply('/', 'x', 2), 1.25],
    [apply('/', 'x', 0), null],
    [apply('ln', 'x'), Math.log(2.5)],
    [apply('ln', apply('-', 'x', 9)), null],
    [apply('log10', 'x'), Math.log10(2.5)],
    [apply('sqrt', 'x'), Math.sqrt(2.5)],
    [apply('pow', 'x', 3), 15.625],
    [apply('round', 'x'), 3],
    [apply('rint', 'x'), 2],
    [apply('floor', apply('-', 'x', 9)), -7],
    [apply('modulo', apply('-', 'x', 9), 4), 1.5],
    [apply('min', 'x', 7, 1), 1],
    [apply('median', 'x', 7, 1, 3), 2.75],
    [apply('avg', 'x', 7), 4.75],
    [apply('threshold', 'x', 2), 1],
    [apply('stdNormalCDF', apply('-', 'x', 2.5)), 0.5],
    [apply('erf', 'x'), 0.999593047982555],
    [apply('if', apply('greaterThan', 'x', 2), 10, 20), 10],
    [apply('if', apply('and', apply('lessThan', 'x', 2), apply('isMissing', 'x')), 10, 20), 20],
    [apply('if', apply('isIn', 'x', 1, 2.5), 10, 20), 10],
    [apply('if', apply('not', apply('equal', 'x', 2.5)), 10, 20), 20],
    [apply('stringLength', apply('concat', 'ab', apply('uppercase', 'cd'))), 4],
    [apply('if', apply('equal', apply('substring', 'nectar', 2, 3), 'ect'), 1, 0), 1],
  ])('functions: %s', async (body, wanted) => {
    close((await predicted(shows('d', derived(body)), 'x\n2.5\n')).values, [wanted]);
  });

  it('call functions of the file, and refuse one that calls itself', async () => {
    const define = (body: string) =>
      `<DefineFunction name="twice" optype="continuous" dataType="double"><ParameterField name="p"/>${body}</DefineFunction>`;
    const body = '<Apply function="*"><FieldRef field="p"/><Constant>2</Constant></Apply>';
    const call = '<Apply function="twice"><Apply function="twice"><FieldRef field="x"/></Apply></Apply>';
    close((await predicted(shows('d', define(body) + derived(call)), 'x\n3\n')).values, [12]);
    const endless = define('<Apply function="twice"><FieldRef field="p"/></Apply>');
    await expect(predicted(shows('d', endless + derived(call)), 'x\n3\n')).rejects.toThrow('calls itself');
  });

  it('refuse a field that is derived from itself', async () => {
    const text = shows('d', derived('<FieldRef field="d"/>'));
    await expect(predicted(text, 'x\n3\n')).rejects.toThrow('derived from itself');
  });
});

describe('the mining schema', () => {
  const treated = (more: string) => shows('x', '', NUMBERS, schemaOf(NUMBERS, { x: more }));

  it('replaces missing values and bounds outliers', async () => {
    close((await predicted(treated('missingValueReplacement="7"'), 'x,z\n1,1\n,1\n')).values, [1, 7]);
    const bounds = (outliers: string) => treated(`outliers="${outliers}" lowValue="0" highValue="5"`);
    close((await predicted(bounds('asExtremeValues'), 'x\n-1\n3\n9\n')).values, [0, 3, 5]);
    close((await predicted(bounds('asMissingValues'), 'x\n-1\n3\n9\n')).values, [null, 3, null]);
  });

  it.each([
    ['returnInvalid', null],
    ['asIs', 0],
    ['asMissing', 0.5],
    ['asValue', 1],
  ])('treats an invalid value %s', async (treatment, wanted) => {
    const fields: Fields = { c: ['u', 'v'], y: 'number' };
    const more = `invalidValueTreatment="${treatment}" ${treatment === 'asValue' ? 'invalidValueReplacement="u"' : ''}`;
    const text = shows(
      'd',
      derived('<NormDiscrete field="c" value="u" mapMissingTo="0.5"/>'),
      fields,
      schemaOf(fields, { c: more }),
    );
    const { values, problems } = await predicted(text, 'c\nw\n');
    close(values, [wanted]);
    expect(problems.map(({ message }) => message)).toEqual(
      wanted === null ? ['“w” is no value of c that the model declares'] : [],
    );
  });

  it('names only the columns that predictions depend on', async () => {
    const fields: Fields = { x: 'number', unused: 'number', y: 'number' };
    expect((await predicted(shows('x', '', fields), 'x\n1\n')).inputs).toEqual([
      { name: 'x', takes: 'numbers', values: null },
    ]);
  });
});
