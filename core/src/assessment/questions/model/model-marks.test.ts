import { describe, expect, it } from '@jest/globals';
import { asked, failing } from '../../../../test/asked.js';
import { makePack } from '../../packs/pack.js';
import { strFromU8, unzipSync } from 'fflate';
import { writePmml } from '../../model-files/index.js';
import { FROM, GOOD, question, handed, tree, logistic, colonies } from './models-of-tests.js';

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
