import { describe, expect, it } from '@jest/globals';
import { modelOf, modelFamilyOf } from '@modest-sieve/core/models';
import { TRAINING_SHARE } from '@modest-sieve/core/evaluation';
import { curvesOf, draftIn, draftOf, planOf, runDetail, tunedDraft, type TrialDraft } from './draft.js';
import { settingsTried } from './settings-tried.js';
import { rangeIn, settingsIn } from './typed-values.js';

describe('values as they are typed', () => {
  it.each([
    ['', []],
    ['5', [5]],
    ['1, 2,5', [1, 2, 5]],
    ['1 2 5', [1, 2, 5]],
    ['1 to 4', [1, 2, 3, 4]],
    ['0 to 1 by 0.25', [0, 0.25, 0.5, 0.75, 1]],
    ['1 to 3, 10 to 30 by 10', [1, 2, 3, 10, 20, 30]],
    ['0 to 0.3 by 0.1', [0, 0.1, 0.2, 0.3]],
    ['3, 3', [3]],
    ['1e-3, 0.01', [0.001, 0.01]],
  ])('“%s” are %j', (text, values) => {
    expect(settingsIn(text)).toEqual(values);
  });

  it.each([
    ['five', 'no number'],
    ['1 to many', 'no number'],
    ['9 to 3', 'has no values'],
    ['1 to 5 by 0', 'has no values'],
    ['1 to 5 by -1', 'has no values'],
    ['1 to 1000', 'more than 500'],
  ])('“%s” is distinguished from them', (text, words) => {
    expect(settingsIn(text)).toContain(words);
  });
});

describe('what a run is called', () => {
  it('has the models of a combination, not what their list is called', () => {
    const model = modelOf('combination', { by: 'stack', members: ['forest trees=20', 'logistic'] });
    const plan = { model, vary: [], search: null } as unknown as Parameters<typeof runDetail>[0]['plan'];
    expect(runDetail({ plan, result: null })).toBe('weighted mean, forest trees=20 + logistic');
  });
});

describe('a range as it is typed', () => {
  it.each([
    ['', []],
    ['1 to 1000', [1, 1000]],
    ['0.01 to 10', [0.01, 10]],
    ['3, 1, 2', [3, 1, 2]],
  ])('“%s” is %j', (text, values) => {
    expect(rangeIn(text)).toEqual(values);
  });

  it.each([
    ['1 to many', 'no range'],
    ['9 to 3', 'has no values'],
    ['wide', 'no number'],
  ])('“%s” is told what is wrong', (text, words) => {
    expect(rangeIn(text)).toContain(words);
  });
});

const draft: TrialDraft = {
  model: modelOf('tree'),
  without: ['apiary'],
  screening: null,
  vary: [{ key: 'depth', text: '1 to 3' }],
  search: null,
  metric: 'accuracy',
  choose: 'best',
  weight: '',
  seed: 1,
};

describe('a draft', () => {
  it('is a plan of the features that are left, without the weight', () => {
    expect(planOf({ ...draft, weight: 'sure' }, ['apiary', 'mites', 'sure'])).toMatchObject({
      features: ['mites'],
      weight: 'sure',
      vary: [{ key: 'depth', settings: [1, 2, 3] }],
    });
    expect(planOf({ ...draft, vary: [{ key: 'depth', text: 'x' }] }, [])).toContain(
      'depth: “x” is no number',
    );
  });

  it('keeps the columns of a screening, at most as many as there are, and none where a baseline has no columns', () => {
    const screened: TrialDraft = { ...draft, screening: { by: 'anova', keep: 2 } };
    const columns = ['apiary', 'mites', 'sure'];
    expect(planOf(screened, columns)).toMatchObject({ screening: { by: 'anova', keep: 2 } });
    expect(planOf(screened, ['apiary', 'mites'])).toBe('Of 1 feature the screening cannot keep 2.');
    expect(planOf({ ...screened, model: modelOf('most-frequent'), vary: [] }, columns)).not.toHaveProperty(
      'screening',
    );
    const plan = planOf(screened, columns);
    expect(typeof plan === 'string' ? plan : planOf(draftOf(plan, columns), columns)).toEqual(plan);
    expect(draftIn(JSON.stringify(screened), 'binary')).toEqual(screened);
    const odd = { ...screened, screening: { by: 'luck', keep: 2 } };
    expect(draftIn(JSON.stringify(odd), 'binary')?.screening).toBeNull();
  });

  it('is saved in the address, and anything else there is none', () => {
    expect(draftIn(JSON.stringify(draft), 'binary')).toEqual(draft);
    const wrong = [
      { vary: [1] },
      { vary: [{ key: 'depth' }] },
      { without: [1] },
      { metric: 'beauty' },
      { weight: null },
    ];
    for (const change of wrong) expect(draftIn(JSON.stringify({ ...draft, ...change }), 'binary')).toBeNull();
    const bare = draftIn(JSON.stringify({ ...draft, model: { kind: 'tree' } }), 'binary');
    expect(bare?.model).toEqual(modelOf('tree'));
    for (const text of [null, '', '{', '{"model":{"kind":"forest"}}', '{"model":{"kind":"tree"}}', '[]'])
      expect(draftIn(text, 'binary')).toBeNull();
    expect(draftIn(JSON.stringify({ ...draft, model: modelOf('mean') }), 'binary')).toBeNull();
  });

  it('is taken up from a run: what comes of it is that run again', () => {
    const plan = planOf(draft, ['apiary', 'mites', 'sure']);
    expect(
      typeof plan === 'string'
        ? plan
        : planOf(draftOf(plan, ['apiary', 'mites', 'sure']), ['apiary', 'mites', 'sure']),
    ).toEqual(plan);
  });

  it('is a curve over the first setting of a family that is to be tuned, or over none', () => {
    const tuned = tunedDraft(draft, 'forest');
    expect(tuned).toMatchObject({
      model: { kind: 'forest' },
      vary: [{ key: 'trees', text: '' }],
      without: draft.without,
    });
    expect(planOf(tuned, ['apiary', 'mites', 'sure'])).toMatchObject({
      vary: [{ key: 'trees', settings: [] }],
    });
    expect(tunedDraft(draft, 'linear').vary).toEqual([]);
  });

  it('may vary every setting of its family, and the training size', () => {
    expect(curvesOf(modelFamilyOf({ kind: 'tree' })).map(({ key }) => key)).toEqual([
      'depth',
      'rows_per_leaf',
      'pruning',
      TRAINING_SHARE,
    ]);
    expect(curvesOf(modelFamilyOf({ kind: 'mean' })).map(({ key }) => key)).toEqual([TRAINING_SHARE]);
  });
});

describe('a run', () => {
  const plan = { ...draft, features: ['mites'], vary: [], weight: null };

  it('is called by the setting that was chosen, or by what is not as usual', () => {
    const model = { kind: 'tree', values: { depth: 30, rows_per_leaf: 8, criterion: 'entropy' } };
    expect(runDetail({ plan: { ...plan, model }, result: null })).toBe('rows in a leaf 8, entropy');
    const result = { settings: 20, chosen: { values: { depth: 4 } } };
    expect(
      runDetail({ plan: { ...plan, model: { kind: 'tree', values: {} } }, result: result as never }),
    ).toBe('depth 4, of 20');
  });
});

describe('settings that are tried', () => {
  const tree = modelFamilyOf({ kind: 'tree' });
  const vary = (...typed: [string, string][]) => typed.map(([key, text]) => ({ key, text }));
  it.each([
    [tree, vary(['depth', '1 to 20']), 20],
    [tree, vary(['depth', '1 to 20'], ['rows_per_leaf', '1, 2, 5']), 60],
    // Left empty it takes the family's own eleven.
    [tree, vary(['rows_per_leaf', '']), 11],
    [modelFamilyOf({ kind: 'lasso' }), vary(['penalty', '']), null],
    [tree, vary(['depth', 'one']), null],
  ])('are counted before they are run', (kind, typed, settings) => {
    expect(settingsTried(typed, kind)).toBe(settings);
  });
});
