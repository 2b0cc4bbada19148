import { describe, expect, it } from '@jest/globals';
import { asked, begun, failing, fileOf } from '../../../../test/asked.js';
import { bytesOf } from '../../../../test/files.js';
import { disclose } from '../../disclosure/disclose.js';
import { writePmml } from '../../model-files/index.js';
import { cellText, columnNamed } from '../../../data/table/table.js';
import type { Material } from '../../material/material.js';
import type { ModelQuestion, ModelRules } from './question.js';
import { FROM, GOOD, SCHEME, question, handed, tree, logistic } from './models-of-tests.js';

describe('a model that is handed in', () => {
  it('is marked by its predictions of the final rows, as a file of them would be', async () => {
    const { result } = await handed(GOOD, 'model.csv');
    expect(failing(result)).toEqual([]);
    const file = asked(begun('predictions', { metric: 'accuracy', scheme: SCHEME }), FROM);
    const { table } = FROM;
    const cells = (name: string) => {
      const column = columnNamed(table, name);
      return Array.from({ length: table.rowCount }, (_, row) => cellText(column, row));
    };
    const [weight, mites, site] = ['weight', 'mites', 'site'].map(cells);
    const answers = Array.from({ length: 200 }, (_, i) => 300 + i).map((row) => {
      const odds = 1.5 * Number(weight?.[row]) - Number(mites?.[row]) + (site?.[row] === 'west' ? 0.5 : 0);
      return `c${row},${odds >= 0 ? 'yes' : 'no'}`;
    });
    const plain = file.hand({ file: fileOf(`colony,prediction\n${answers.join('\n')}\n`) });
    expect(plain.marks).toBeGreaterThan(5);
    expect(result.marks).toBe(plain.marks);
    expect(result.scored?.feedback?.score).toEqual(plain.scored?.feedback?.score);
    expect(result.standing).toBe(plain.standing);
  });

  it('says what was read off it: coefficients, a tree, columns and its training score', async () => {
    const { result } = await handed(GOOD, 'model.csv');
    expect(result.model?.report.inputs).toEqual(
      ['weight', 'mites', 'site'].map((name) => ({ name, column: name })),
    );
    expect(result.model?.report.picture).toMatchObject({ kind: 'coefficients', more: 0 });
    expect(result.model?.training.rows).toBe(300);
    const drawn = (await handed(writePmml(tree(2), new Set()), 'tree.pmml')).result.model?.report.picture;
    if (drawn?.kind !== 'tree') throw new Error('no tree');
    expect(drawn.root.branches).toHaveLength(2);
    expect(drawn.root.branches[0]?.when).toMatch(/^weight [<≤>] /);
    expect(drawn.root.branches[0]?.branches.map(({ says }) => says)).toEqual(expect.arrayContaining(['no']));
  });

  it('may be told which column an input takes', async () => {
    const other = GOOD.replace('weight', 'Weight of the hive').replace('term', 'variable');
    const refused = await handed(other, 'model.csv');
    expect(failing(refused.result)).toEqual(['loads']);
    const renamed = writePmml(logistic(), new Set()).replaceAll('"weight"', '"w"');
    const unnamed = await handed(renamed, 'model.pmml');
    expect(failing(unnamed.result)).toEqual(['inputs']);
    expect(unnamed.run.checks.at(-1)?.message).toContain('no column is named for the input “w”');
    const named = await handed(renamed, 'model.pmml', { fields: { 'column:w': 'weight' } });
    expect(named.result.marks).toBe(
      (await handed(writePmml(logistic(), new Set()), 'model.pmml')).result.marks,
    );
  });

  it.each([
    ['target-among-inputs', 'survived', {}],
    ['identifier-used', 'colony', {}],
    ['withheld-column-used', 'mites', { without: ['mites'] }],
  ])('has the slip %s named', async (slip, column, values) => {
    const file = writePmml(logistic(), new Set()).replaceAll('"weight"', '"w"');
    const { result } = await handed(file, 'model.pmml', {
      of: question({ values }),
      fields: { 'column:w': column },
    });
    expect(result.slips?.map(({ id }) => id)).toEqual([slip]);
    const table = await handed(`term,estimate\nweight,1\n${column}=a,1\n`, 'model.csv', {
      of: question({ values }),
    });
    expect(table.result).toMatchObject({
      holds: false,
      slips: [{ id: slip, evidence: `it takes ${column}` }],
    });
    expect((await handed(GOOD, 'model.csv')).result.slips).toEqual([]);
  });

  it.each<[string, string, ModelQuestion['values'], Partial<ModelRules>, RegExp]>([
    ['a withheld column', 'term,estimate\nhoney,9\n', {}, {}, /“honey”/],
    ['the target', 'term,estimate\nsurvived=yes,9\n', {}, {}, /“survived”/],
    ['a forbidden column', GOOD, { without: ['mites'] }, {}, /“mites”/],
    ['another format', GOOD, { takes: 'onnx' }, {}, /does not take/],
    ['numbers for labels', 'term,estimate\nweight,1\n', {}, { link: 'identity' }, /numbers, and labels/],
    [
      'logarithms of what is below 0',
      'term,estimate\nlog(weight),1\nlog(mites),1\n',
      {},
      {},
      /no prediction for most rows/,
    ],
    ['no coefficients', 'weight\n1\n', {}, {}, /needs the columns “term” and “estimate”/],
  ])(
    'is refused, and marked with nothing, where it takes or gives what it may not: %s',
    async (_, text, values, rules, says) => {
      const { result, run } = await handed(text, 'model.csv', {
        of: question({ values }),
        rules,
      });
      expect(result).toMatchObject({ holds: false, marks: null, scored: null });
      const failed = result.checks.filter(({ outcome }) => outcome === 'fails');
      expect(failed.map(({ message }) => message).join()).toMatch(says);
      expect(run.heldOut).toBeNull();
    },
  );

  it.each([
    ['gives every row the same', 'term,estimate\n(intercept),3\n'],
    ['reads noise alone', 'term,estimate\nnoise,1\n'],
    ['has its signs exchanged', GOOD.replaceAll(',-1', ',1').replace('weight,1.5', 'weight,-1.5')],
  ])('earns nothing where it %s', async (_, text) => {
    const { result } = await handed(text, 'model.csv');
    expect(result.marks).toBe(0);
    expect(failing(result)).toContain('work');
  });

  it('is judged by its probabilities where the metric asks for them', async () => {
    const { result } = await handed(GOOD, 'model.csv', { of: question({ metric: 'roc_auc' }) });
    expect(result.checks.map(({ id }) => id)).toContain('probabilities');
    expect(result.marks).toBeGreaterThan(5);
  });
});

describe('held-out rows that a model fails on', () => {
  /** Held-out rows have a site that no training row has, for which this tree says nothing. */
  const { table } = FROM;
  const from: Material = {
    ...FROM,
    table: {
      ...table,
      columns: table.columns.map((column) =>
        column.name === 'weight' && column.kind === 'number'
          ? {
              ...column,
              values: column.values.map((value, row) => (row >= 300 && row % 5 === 0 ? NaN : value)),
            }
          : column,
      ),
    },
  };

  it('count as the commonest class, are no reason to refuse it, and tell no number that its student could not find', async () => {
    const given = await handed(GOOD, 'model.csv', { from });
    expect(given.result).toMatchObject({ holds: true });
    const of = (from: Awaited<ReturnType<typeof handed>>) =>
      from.result.judged.find(({ check }) => check.id === 'held-out')?.check;
    expect(of(given)?.measured).toBe('40 rows');
    const kept = await handed(GOOD, 'model.csv', { from, of: question({ values: { features: 'kept' } }) });
    expect(kept.result.marks).toBe(given.result.marks);
    expect(of(kept)).toMatchObject({ measured: null, examples: [] });
    expect(kept.result.marks).toBeGreaterThan(0);
    // Before the return nothing of it is told, whatever the policy.
    for (const policy of ['after-return', 'rounded', 'only-when-better', 'everything'] as const) {
      const told = disclose(kept.result, {
        policy,
        returned: false,
        shown: null,
        latePercent: 0,
        slips: 'never',
        adjustment: null,
        comment: null,
      });
      expect([told.judged, told.marks]).toEqual([null, null]);
      expect(JSON.stringify(told)).not.toContain('held-out rows');
    }
  });
});

it('with many inputs of long names has a receipt that stays small', async () => {
  const names = Array.from({ length: 300 }, (_, i) => `${'n'.repeat(5000)}${i}`);
  const fields = names.map((name) => `<DataField name="${name}" optype="continuous" dataType="double"/>`);
  const used = names.map((name) => `<MiningField name="${name}"/>`);
  const terms = names.map((name) => `<NumericPredictor name="${name}" coefficient="1"/>`);
  const file = `<PMML version="4.4" xmlns="http://www.dmg.org/PMML-4_4"><DataDictionary>${fields.join('')}<DataField name="survived" optype="categorical" dataType="string"/></DataDictionary><RegressionModel functionName="regression"><MiningSchema>${used.join('')}</MiningSchema><RegressionTable intercept="0">${terms.join('')}</RegressionTable></RegressionModel></PMML>`;
  const { run } = await handed(file, 'many.pmml');
  expect(run.checks.at(-1)?.id).toBe('inputs');
  expect(run.report).toMatchObject({ moreInputs: 100, picture: { kind: 'coefficients' } });
  expect(JSON.stringify(run).length).toBeLessThan(150_000);
});

it('reads nothing of an archive or an empty file', async () => {
  expect(failing((await handed(bytesOf('PK\u0003\u0004rest'), 'model.onnx')).result)).toEqual(['loads']);
  expect(failing((await handed('', 'model.csv')).result)).toEqual(['loads']);
});
