import { describe, expect, it } from '@jest/globals';
import { diabetes, tableOf, testFile } from '../../../test/files.js';
import { fit, modelCase, request } from '../../../test/models.js';
import { indices } from '../../foundation/numbers.js';
import type { PlanValue } from '../../data/sentence/parameter.js';
import { isOf } from '../contract/state.js';
import { fitModel, predictRows } from '../fitted.js';
import { modelLine } from '../learners/typed.js';
import { modelFamilyOf, modelOf } from '../registry.js';
import { modelFromSettings, modelWords } from '../settings.js';
import { combinedForm } from './combined-form.js';
import { memberIn } from './members.js';

/** Computed by test/reference/combined.py with scikit-learn and SciPy. */
const expected = JSON.parse(new TextDecoder().decode(testFile('reference/combined.json'))) as {
  soft: number[][];
  votes: number[][];
  mean: number[];
  median: number[];
};

const DATA = {
  wine: { table: modelCase('tree-wine').table, task: 'multiclass' as const },
  diabetes: { table: diabetes(), task: 'regression' as const },
};
const NEAR = ['nearest', 'nearest neighbours=25 weights=distance', 'class-shares'];

/** What a model says of every fifth row, fitted to the others. */
function saysOf(data: keyof typeof DATA, kind: string, values: Record<string, PlanValue>) {
  const { table, task } = DATA[data];
  const rows = indices(table.rowCount);
  const fitted = fit(table, 'target', task, kind, values, { rows: rows.filter((row) => row % 5 !== 0) });
  return predictRows(
    fitted,
    table,
    rows.filter((row) => row % 5 === 0),
  );
}

describe('several models combined', () => {
  it.each([
    ['average', expected.soft],
    ['vote', expected.votes],
  ] as const)('by %s: the shares of classes that VotingClassifier gives', (by, shares) => {
    const said = saysOf('wine', 'combination', { by, members: NEAR });
    expect(said).toHaveLength(3);
    shares.forEach((row, i) => row.forEach((share, k) => expect(said[k]?.[i]).toBeCloseTo(share, 10)));
  });

  it.each([
    ['average', expected.mean],
    ['vote', expected.median],
  ] as const)('of numbers by %s: what VotingRegressor and NumPy give', (by, values) => {
    const said = saysOf('diabetes', 'combination', { by, members: ['linear', 'nearest', 'mean'] });
    values.forEach((value, i) => expect(said[0]?.[i]).toBeCloseTo(value, 8));
  });

  it('a stack leans on what predicts rows that it was fitted without, not on what knows its own by heart', () => {
    const lines = Array.from({ length: 200 }, (_, i) => {
      const x = Math.sin(i * 12.9898) * 5;
      return `${x},${2 * x + Math.sin(i * 78.233) * 4}`;
    });
    const table = tableOf(`x,y\n${lines.join('\n')}\n`);
    const values = { by: 'stack', members: ['nearest neighbours=1', 'linear'] };
    const { description, state } = fit(table, 'y', 'regression', 'combination', values);
    const [byHeart, line] = description.members ?? [];
    expect(line?.weight).toBeGreaterThan(0.8);
    expect(line?.error ?? NaN).toBeLessThan(byHeart?.error ?? NaN);
    expect(isOf(combinedForm, state) ? state.weights : []).toEqual([byHeart?.weight, line?.weight]);
  });

  it('gives no share to what knows groups by heart, where rows of a group stay together', () => {
    // Twelve groups of ten rows: within a group y is nearly the same, and from group to group it goes with x.
    const lines = Array.from({ length: 120 }, (_, i) => {
      const group = i % 12;
      const x = group + 0.3 * Math.sin(i * 12.9898);
      return `g${group},${x},${2 * x + 4 * Math.sin(group * 78.233) + 0.1 * Math.sin(i)}`;
    });
    const table = tableOf(`site,x,y\n${lines.join('\n')}\n`);
    const values = { by: 'stack', members: ['nearest neighbours=1', 'linear'] };
    const shareOf = (group: string | null) =>
      fit(table, 'y', 'regression', 'combination', values, { features: ['x'], group }).description
        .members?.[0]?.weight ?? NaN;
    expect(shareOf(null)).toBeGreaterThan(0.9);
    expect(shareOf('site')).toBeLessThan(0.4);
    expect(() =>
      fit(
        table,
        'y',
        'regression',
        'combination',
        { ...values, folds: 13 },
        { features: ['x'], group: 'site' },
      ),
    ).toThrow('13 folds inside the training rows need as many groups; there are 12');
  });

  it('a row that weighs 2 counts twice when weights are learned', () => {
    const table = tableOf(
      `x,y\n${Array.from({ length: 40 }, (_, i) => `${i % 7},${i % 2 ? i % 7 : 9}`).join('\n')}\n`,
    );
    const weighted = (weight: (row: number) => number) => {
      const weights = Float64Array.from({ length: 40 }, (_, row) => weight(row));
      const values = { by: 'stack', members: ['mean', 'linear'] };
      return (
        fit(table, 'y', 'regression', 'combination', values, { weights }).description.members?.[1]?.weight ??
        NaN
      );
    };
    // Where odd rows count, the line holds; where even ones count, y is the same everywhere.
    expect(weighted((row) => (row % 2 ? 50 : 1))).toBeGreaterThan(
      weighted((row) => (row % 2 ? 1 : 50)) + 0.2,
    );
  });

  it.each([
    [{ members: ['forest'] }, 'at least two models'],
    [{ members: ['linear', 'linear '] }, 'named twice'],
    [{ members: ['linear', 'oracle'] }, '“oracle”: There is no model to combine “oracle”'],
    [{ members: ['linear', 'combination'] }, '“combination”: There is no model to combine'],
    [{ members: ['linear', 'logistic'] }, '“logistic”: logistic regression does not predict for this task'],
    [{ members: ['linear', 'tree depth=deep'] }, '“tree depth=deep”: depth is a number, not “deep”'],
    [{ members: ['linear', 'tree depth=0'] }, '“tree depth=0”: depth is at least 1'],
    [{ members: ['linear', 'tree 4'] }, '“tree 4”: There is no model to combine “tree 4”'],
    [{ by: 'stack', folds: 1, members: ['linear', 'mean'] }, 'is at least 2'],
    [{ by: 'stack', folds: 20, members: ['linear', 'mean'] }, '20 folds need as many training rows'],
  ])('refuses %j by name', (values, message) => {
    const table = tableOf(`x,y\n${Array.from({ length: 9 }, (_, i) => `${i},${i * 2}`).join('\n')}\n`);
    expect(() => fit(table, 'y', 'regression', 'combination', values)).toThrow(message);
  });

  it('a model that cannot be fitted is named', () => {
    const table = tableOf(`x,won\n${Array.from({ length: 9 }, (_, i) => `${i},yes`).join('\n')}\n`);
    const asked = request(table, 'won', 'binary', 'combination', { members: ['tree', 'logistic'] });
    expect(() => fitModel(asked)).toThrow('“logistic regression”: ');
  });
});

describe('a model in one line', () => {
  it('is read back as what it was written from', () => {
    for (const line of [
      'forest trees=20 depth=6',
      'tree first=hive kind depth=3',
      'network layers=20,10',
      'nearest',
    ]) {
      const { kind, plan } = memberIn(line, 'members');
      expect(memberIn(modelLine(kind, plan), 'members').plan).toEqual(plan);
    }
    const ridge = modelFromSettings('ridge', ['penalty=2'], 'set');
    const line = modelLine(modelFamilyOf(ridge), ridge);
    expect(line).toBe('ridge penalty=2 units=as-is');
    expect(memberIn(line, 'members').plan).toEqual(ridge);
  });

  it('is one of several on the command line, with semicolons between them', () => {
    const plan = modelFromSettings('combination', ['by=vote', 'members=forest trees=5; linear'], 'set');
    expect(plan.values).toMatchObject({ by: 'vote', members: ['forest trees=5', 'linear'] });
  });
});

describe('what a student reads of a model', () => {
  it('has its models, and texts among the settings', () => {
    expect(modelWords(modelOf('combination', { by: 'vote', members: ['linear', 'nearest'] }))).toBe(
      'several models combined (vote, linear + nearest)',
    );
    expect(modelWords(modelOf('bagging', { model: 'tree depth=3' }))).toContain('model tree depth=3');
    expect(modelWords(modelOf('network', { layers: '8,4' }))).toContain('8,4');
  });
});
