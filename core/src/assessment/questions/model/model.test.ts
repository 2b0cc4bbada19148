import { describe, expect, it } from '@jest/globals';
import { asked, begun, failing, fileOf, material } from '../../../../test/asked.js';
import { bytesOf, tableOf } from '../../../../test/files.js';
import { fit } from '../../../../test/models.js';
import { FEEDBACK, FINAL } from '../../material/held-out.js';
import { makePack } from '../../packs/pack.js';
import { strFromU8, unzipSync } from 'fflate';
import { disclose } from '../../disclosure/disclose.js';
import { runModel, writePmml } from '../../model-files/index.js';
import type { Fitted } from '../../../models/fitted.js';
import { at } from '../../../foundation/numbers.js';
import { seededRandom, type Random } from '../../../foundation/random/random.js';
import type { Roles } from '../../../data/table/roles.js';
import { cellText, columnNamed } from '../../../data/table/table.js';
import type { Material } from '../../material/material.js';
import type { ModelQuestion, ModelRules } from './question.js';

const ROLES: Roles = {
  target: 'survived',
  task: 'binary',
  positive: 'yes',
  identifier: 'colony',
  group: null,
  time: null,
  weight: null,
  withheld: ['honey'],
};

/** The sum of twelve uniform numbers, less 6: nearly normal. */
const normal = (random: Random) =>
  Array.from({ length: 12 }, () => random.unit()).reduce((a, b) => a + b, -6);

/** Colonies whose survival depends on weight and mites, with noise; 60 % given, the rest held out for both purposes. */
function colonies(n = 500, seed = 20261129): Material {
  const random = seededRandom(seed);
  const lines = Array.from({ length: n }, (_, i) => {
    const [weight, mites, site] = [normal(random), normal(random), at(['east', 'west'], random.below(2))];
    const odds = 1.5 * weight - mites + (site === 'west' ? 0.5 : 0);
    const survived = random.unit() < 1 / (1 + Math.exp(-odds)) ? 'yes' : 'no';
    const honey = survived === 'yes' ? 1 : 0;
    return `c${i},${weight.toFixed(3)},${mites.toFixed(3)},${normal(random).toFixed(3)},${site},${honey},${survived}`;
  });
  const given = Math.round(n * 0.6);
  return material({
    table: tableOf(`colony,weight,mites,noise,site,honey,survived\n${lines.join('\n')}\n`),
    roles: ROLES,
    parts: Int8Array.from({ length: n }, (_, i) => (i < given ? 0 : 2)),
    division: Uint8Array.from({ length: n }, (_, i) => (i < given ? 0 : i % 2 ? FEEDBACK : FINAL)),
  });
}

const FROM = colonies();
const GOOD = 'term,estimate\n(intercept),0\nweight,1.5\nmites,-1\nsite=west,0.5\n';

const SCHEME = { nothing: 0.5, most: 0.75, all: 0.9, mostMarks: 8, marks: 10 };
const question = (over: Partial<ModelQuestion> = {}): ModelQuestion =>
  begun('model', {
    metric: 'accuracy',
    scheme: SCHEME,
    ...over,
    values: {
      takes: 'any',
      link: 'logit',
      without: [],
      features: 'given',
      coefficients: 'ignored',
      overfitted: 100,
      ...over.values,
    },
  });

interface Handing {
  readonly of?: ModelQuestion;
  readonly from?: Material;
  readonly fields?: Record<string, string>;
  /** Rules that are others than the question's. */
  readonly rules?: Partial<ModelRules>;
}

/** A model handed in to a question, after it was run. */
async function handed(text: string | Uint8Array, name: string, handing: Handing = {}) {
  const { of = question(), from = FROM, fields = {}, rules: over = {} } = handing;
  const made = asked(of, from);
  const { rules, key } = made;
  if (!('takes' in rules) || !('features' in key)) throw new Error('no question for a model');
  const file = fileOf(text, name);
  const run = await runModel({
    ...file,
    fields,
    rules: { ...rules, ...over },
    training: key.training.features,
    heldOut: key.features,
    without: key.without,
  });
  return { ...made, run, result: made.hand({ file, fields, run }) };
}

const tree = (depth: number, from = FROM) =>
  fit(
    from.table,
    'survived',
    'binary',
    'tree',
    { depth, rows_per_leaf: 1, rows_to_split: 2 },
    {
      features: ['weight', 'mites', 'noise', 'site'],
      rows: Int32Array.from(from.parts.keys()).filter((row) => from.parts[row] === 0),
    },
  );
const logistic = (from = FROM): Fitted =>
  fit(
    from.table,
    'survived',
    'binary',
    'logistic',
    {},
    {
      features: ['weight', 'mites', 'site'],
      rows: Int32Array.from(from.parts.keys()).filter((row) => from.parts[row] === 0),
    },
  );

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
        adjustment: null,
      });
      expect([told.judged, told.marks]).toEqual([null, null]);
      expect(JSON.stringify(told)).not.toContain('held-out rows');
    }
  });
});

describe('an overfitted model', () => {
  const withReference = { ...FROM, references: [logistic()] };
  const limited = question({ values: { overfitted: 40 } });

  it('is one that a reference run beats which fits the training rows less closely; it earns at most the limit', async () => {
    const deep = writePmml(tree(30), new Set());
    const free = await handed(deep, 'tree.pmml', { from: withReference });
    const capped = await handed(deep, 'tree.pmml', { from: withReference, of: limited });
    expect(failing(capped.result)).toEqual(['fit']);
    expect(free.result.marks).toBeGreaterThan(4);
    expect(capped.result.marks).toBe(4);
    const good = await handed(GOOD, 'model.csv', { from: withReference, of: limited });
    expect(failing(good.result)).toEqual([]);
    expect(good.result.marks).toBeGreaterThan(4);
  });

  it('is not told by a gap alone, nor without a reference run', async () => {
    const { result } = await handed(writePmml(tree(30), new Set()), 'tree.pmml');
    expect(result.judged.find(({ check }) => check.id === 'fit')?.check.outcome).toBe('unsure');
    expect(() => asked(limited, FROM)).toThrow('make a run of the split a reference');
  });

  it('is seldom seen in a model that is as good as the reference run, however closely it fits', async () => {
    let [claims, n] = [0, 0];
    for (let seed = 1; seed <= 40; seed++) {
      const from = colonies(300, seed);
      // A tree of two levels beside one of one level: about as good, and closer to the training rows.
      const { result } = await handed(writePmml(tree(2, from), new Set()), 'tree.pmml', {
        from: { ...from, references: [tree(1, from)] },
      });
      n++;
      if (failing(result).includes('fit')) claims++;
    }
    expect(claims / n).toBeLessThanOrEqual(0.05);
  }, 60_000);
});

describe('coefficients', () => {
  const of = question({ values: { coefficients: 'compared' } });
  const from = { ...FROM, references: [logistic()] };
  const terms = logistic().description.coefficients ?? [];
  const table = (change: number) =>
    `term,estimate\n${terms.map(({ term, estimate }) => `${term},${(estimate ?? 0) * change}`).join('\n')}\n`;
  const checkOf = ({ result }: Awaited<ReturnType<typeof handed>>) =>
    result.judged.find(({ check }) => check.id === 'coefficients')?.check;

  it('are compared with those of the reference run, from a table and from PMML', async () => {
    expect(checkOf(await handed(table(1.001), 'model.csv', { of, from }))?.outcome).toBe('holds');
    const off = checkOf(await handed(table(1.4), 'model.csv', { of, from }));
    expect(off?.outcome).toBe('fails');
    expect(off?.measured).toBe(`0 of ${terms.length} coefficients`);
    expect(checkOf(await handed(writePmml(logistic(), new Set()), 'model.pmml', { of, from }))?.outcome).toBe(
      'holds',
    );
    expect(checkOf(await handed(writePmml(tree(2), new Set()), 'tree.pmml', { of, from }))?.outcome).toBe(
      'unsure',
    );
  });
});

describe('the pack of a question for a model', () => {
  const pack = (features: string) =>
    makePack({
      ...FROM,
      reserve: FROM.division,
      earlier: [],
      questions: [question({ values: { features } })],
      descriptions: { weight: 'kg' },
      title: 'Colonies',
      brief: '',
      conditions: [],
      reissued: false,
    });

  it('has the features of the held-out rows only where they are given, and names no withheld column', () => {
    const [given, kept] = [pack('given'), pack('kept')];
    expect(given.files.map(({ name }) => name)).toContain('held-out.csv');
    expect(kept.files.map(({ name }) => name)).not.toContain('held-out.csv');
    const texts = Object.values(unzipSync(kept.zip)).map((bytes) => strFromU8(bytes));
    const asTold = JSON.stringify(kept.questions);
    for (const text of [...texts, asTold]) {
      expect(text).not.toContain('honey');
      for (let row = 300; row < 500; row++) expect(text).not.toMatch(new RegExp(`\\bc${row}\\b`));
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
