import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setStage, type Stage } from './program.js';
import { coloniesAtLook, runsOf, saveFolds, splitColonies } from './runs.js';
import type { Someone } from './someone.js';

/** The lesson on tuning at Try: a search through several settings, and how much of its best is luck. */

let stage: Stage;
let ada: Someone;

beforeAll(async () => {
  stage = await setStage();
  ada = stage.instructor;
  const desk = await coloniesAtLook(ada, 'Tuning');
  await splitColonies(ada, desk);
  await ada.open(`${desk}/split/folds`);
  await saveFolds(ada);
});
afterAll(() => stage.end());

const settings = () =>
  ada.page.$$eval('[data-setting]', (rows) =>
    rows.map((row) => Array.from(row.querySelectorAll('td'), (cell) => cell.innerText.trim())),
  );

describe('the lesson on tuning', () => {
  it('says how many fits a search takes before it begins', async () => {
    await ada.press('Run');
    await ada.find('[data-run="most-frequent"]');
    await ada.choose('model', 'tree');
    await ada.choose('varied setting', 'depth');
    await ada.choose('how values are tried', 'random');
    await ada.fill('settings that are drawn', '12');
    await ada.see('At most 60 fits to folds');
    await ada.choose('how values are tried', 'halving');
    await ada.see('At most 90 fits to folds');
    await ada.choose('how values are tried', 'random');
    await ada.press('Vary every setting');
    await ada.find('select[aria-label="third varied setting"]');
  });

  it('says at once what is wrong with a range', async () => {
    await ada.fill('values that are tried', '9 to 3');
    await ada.see('“9 to 3” has no values');
    await ada.fill('values that are tried', '1 to 12');
    await ada.see('At most 60 fits to folds');
  });

  it('shows every setting that was drawn, the best as threads, and the one it began with', async () => {
    await ada.choose('setting that is used', 'best');
    await ada.press('Run');
    await ada.see('A search of 12 settings');
    await ada.find('svg[aria-label="12 settings by depth and area under the ROC curve"]');
    await ada.find('svg[aria-label^="The best 12 settings, a thread each through depth"]');
    const rows = await settings();
    expect(rows.some(([rank]) => rank?.endsWith('begun with'))).toBe(true);
    const means = rows.map((cells) => Number(cells.at(-3)));
    expect(means).toEqual([...means].sort((a, b) => b - a));
    await ada.press('All 12');
    expect(await settings()).toHaveLength(12);
    const depths = (await settings())
      .filter(([rank]) => !rank?.endsWith('begun with'))
      .map((cells) => Number(cells[1]));
    expect(Math.max(...depths)).toBeLessThanOrEqual(12);
    expect(ada.complaints).toEqual([]);
  });

  it('says how much of the best is luck, and whether it does better than where it began', async () => {
    await ada.see('of the best area under the ROC curve may be luck');
    await ada.see('the setting that the search began with');
    expect(ada.complaints).toEqual([]);
  });

  it('sets two settings against each other', async () => {
    await ada.choose('setting up', 'rows_per_leaf');
    await ada.find('svg[aria-label="12 settings by depth and rows in a leaf"]');
    await ada.see('The larger the dot, the better the area under the ROC curve');
  });

  it('keeps the search in the address, over a reload', async () => {
    await ada.open(ada.path + (await ada.page.evaluate(() => location.search)));
    await ada.see('At most 60 fits to folds');
    await ada.see('A search of 12 settings');
  });

  it('sets columns against the target one by one, and screens inside and outside the folds', async () => {
    await ada.press('Selection');
    await ada.find('[data-screened="outside"]');
    const figures = await ada.page.$$eval('[data-screened]', (rows) =>
      rows.map((row) => Array.from(row.querySelectorAll('td'), (cell) => cell.innerText)),
    );
    // Weight explains it all, so that both ways keep it, and shuffled targets are guessed.
    expect(figures).toHaveLength(2);
    const columns = await ada.page.$$eval('[data-column]', (rows) =>
      rows.map((row) => row.getAttribute('data-column')),
    );
    expect(columns[0]).toBe('weight');
    await ada.fill('columns that are kept', '1');
    await ada.page.waitForFunction(
      () => document.querySelector('[data-column="weight"]')?.textContent.includes('5 of 5') === true,
    );
    await ada.see('those down to this one');
    expect(ada.complaints).toEqual([]);
  });

  it('chooses features step by step once it is asked, and takes them up into the sentence', async () => {
    await ada.fill('features at most', '2');
    await ada.see('110 fits of this model');
    await ada.press('Choose features');
    await ada.find('[data-step="2"]');
    const steps = await ada.page.$$eval('[data-step]', (rows) =>
      rows.map((row) => Array.from(row.querySelectorAll('td'), (cell) => cell.innerText.trim())),
    );
    expect(steps.map(([count, features]) => [count, features?.split(', ')[0]])).toEqual([
      ['1', 'weight'],
      ['2', 'weight'],
    ]);
    await ada.page.$$eval('[data-step="1"] button', ([button]) => {
      (button as HTMLElement).click();
    });
    await ada.see('from 1 feature, leaving out');
    await ada.find('button[aria-label="mites: leave out of columns that are left out"]');
    await ada.fill('name of the feature set', 'weight alone');
    await ada.press('Save the features');
    await ada.see('Feature sets:');
    await ada.press('mites: leave out of columns that are left out');
    await ada.see('from 2 features, leaving out');
    await ada.press('weight alone');
    await ada.see('from 1 feature, leaving out');
    await ada.press('Delete the feature set weight alone');
    await ada.seeGone('Feature sets:');
    expect(ada.complaints).toEqual([]);
  });

  it('searches every family that has settings', async () => {
    await ada.fill('settings that are drawn', '2');
    await ada.see('At most 10 fits to folds');
    await ada.press('Search every family');
    await ada.page.waitForFunction(
      () =>
        ['lasso', 'forest', 'boosting', 'vector-machine', 'network'].every((kind) =>
          [...document.querySelectorAll(`[data-run="${kind}"]`)].some((row) =>
            row.textContent.includes('of 2'),
          ),
        ),
      { timeout: 90_000 },
    );
    expect((await runsOf(ada)).filter(({ kind }) => kind === 'linear')).toEqual([]);
    expect(ada.complaints).toEqual([]);
  });

  it('screens the columns in every fold before the model, and says what was kept of all training rows', async () => {
    await ada.press('mites: leave out of columns that are left out');
    await ada.choose('model', 'logistic');
    await ada.choose('screening of the columns', 'anova');
    await ada.fill('columns that the screening keeps', '1');
    await ada.press('Run');
    await ada.see('the strongest by analysis of variance');
    await ada.see('On all training rows the screening kept weight.');
    await ada.see('they come out too small');
    await ada.press('How much of the best area under the ROC curve is luck?');
    await ada.see('on rows that had no say in the choice');
    expect(ada.complaints).toEqual([]);
  });

  it('combines the models of runs, and shows the share of each', async () => {
    await ada.choose('model', 'nearest');
    await ada.press('Run');
    await ada.find('[data-run="nearest"]');
    await ada.choose('model', 'combination');
    await ada.choose('how they are combined', 'stack');
    for (const begun of ['forest', 'boosting', 'nearest'])
      await ada.press(`${begun}: leave out of models that are combined`);
    const suggested = await ada.page.$$eval('datalist option', (options) =>
      options.map((option) => option.getAttribute('value') ?? ''),
    );
    const searched = suggested.find((line) => line.startsWith('tree depth='));
    expect(searched).toBeDefined();
    await ada.enter('models that are combined', searched ?? '');
    await ada.press('Run');
    await ada.see('Name at least two models to combine');
    await ada.enter('models that are combined', 'nearest');
    await ada.press('Run');
    await ada.see('The models and their shares');
    const shares = await ada.page.$$eval('table[aria-label="The models and their shares"] tbody tr', (rows) =>
      rows.map((row) => Array.from(row.querySelectorAll('td'), (cell) => cell.innerText.trim())),
    );
    expect(shares.map(([model]) => model)).toEqual([
      searched?.replace('tree', 'a decision tree'),
      'nearest neighbours',
    ]);
    expect(shares.reduce((sum, cells) => sum + Number(cells[2]?.replace(' %', '')), 0)).toBeCloseTo(100, 0);
    expect(ada.complaints).toEqual([]);
  });
});
