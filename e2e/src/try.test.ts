import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fileWith, setStage, type Stage } from './program.js';
import { coloniesAtLook, runsOf, saveFolds, splitColonies } from './runs.js';
import type { Someone } from './someone.js';

/** The lesson on overfitting at Try: guessing, a tree that knows every row by heart, its curve, the choice, the reference. */

let stage: Stage;
let ada: Someone;
let desk: string;

beforeAll(async () => {
  stage = await setStage();
  ada = stage.instructor;
  desk = await coloniesAtLook(ada, 'Overfitting');
});
afterAll(() => stage.end());

describe('the lesson on overfitting', () => {
  it('begins with what is missing: the target, then folds', async () => {
    await ada.open(`${desk}/try`);
    await ada.see('First, what is to be predicted?');
    await splitColonies(ada, desk);
    await ada.open(`${desk}/try`);
    await ada.see('Models are judged over folds');
    await ada.follow('Save folds at Split');
    await saveFolds(ada);
  });

  it('guesses first, and says that this is what a model must beat', async () => {
    await ada.press('Run');
    await ada.find('[data-run="most-frequent"]');
    await ada.see('0.500');
    const [baseline] = await runsOf(ada);
    expect(baseline?.cells.slice(2, 5)).toEqual(['0.500', '0.000', '0.000']);
  });

  it('then grows a tree as deep as it goes, which knows its training rows by heart', async () => {
    await ada.choose('model', 'tree');
    await ada.press('Run');
    await ada.find('[data-run="tree"]');
    await ada.see('Better than guessing');
    const tree = (await runsOf(ada)).find(({ kind }) => kind === 'tree');
    expect(Number(tree?.cells[4])).toBeGreaterThan(0.1);
  });

  it('draws the curve by depth: best, simplest within one standard error, and where it memorises', async () => {
    await ada.choose('varied setting', 'depth');
    await ada.fill('values that are tried', '1 to 12');
    // What a deep tree is too sure of costs it most by log loss.
    await ada.choose('metric', 'log_loss');
    await ada.press('Run');
    await ada.see('By depth');
    await ada.see('it memorises');
    await ada.see('on training rows');
    expect(await ada.text()).toMatch(/Depth \d+ is (enough|best)/);
    const curve = await ada.page.$eval('[aria-label$="by depth"][role="img"]', (plot) => plot.textContent);
    expect(curve).toContain('memorising');
    // Only now is the deep tree's gap a fault: a simpler one does as well.
    await ada.see('although a simpler setting does as well');
    await ada.choose('metric', 'roc_auc');
  });

  it('keeps what is typed and chosen in the address, over a reload', async () => {
    const address = ada.page.url();
    await ada.page.reload();
    await ada.see('By depth');
    expect(ada.page.url()).toBe(address);
    const typed = await ada.page.$eval('input[aria-label="values that are tried"]', (input) => input.value);
    expect(typed).toBe('1 to 12');
  });

  it('says at once what is wrong with values, and runs nothing', async () => {
    await ada.fill('values that are tried', '1 to many');
    await ada.see('is no number, and no run such as 1 to 20');
    await ada.page.waitForFunction(() =>
      Array.from(document.querySelectorAll('button')).some(
        (button) => button.innerText === 'Run' && button.ariaDisabled === 'true',
      ),
    );
    await ada.fill('values that are tried', '1 to 12');
  });

  it('shows the tree with its counts, and as rules', async () => {
    await ada.press('Model');
    await ada.see('As rules');
    await ada.see('weight ≤');
    await ada.see('What it splits on');
  });

  it('shows errors out of fold by subgroup, and a threshold with its costs', async () => {
    await ada.press('Errors');
    await ada.see('The rows with the largest errors');
    await ada.see('predicted yes');
    await ada.page.locator('::-p-aria([name="By subgroup"][role="combobox"])').fill('forage');
    await ada.see('heather');
    await ada.fill('cost of a missed one', '20');
    await ada.see('this threshold is chosen on the rows that judge it');
    await ada.find('[aria-label="Calibration in words"]');
  });

  it('shows held-out figures only when they are asked for, and records it', async () => {
    await ada.page.locator('::-p-aria([name="Rows"][role="combobox"])').fill('held-out');
    await ada.see('wears them out');
    await ada.press('Look at the held-out figures');
    await ada.press('Look at the held-out figures: yes');
    await ada.see('180 rows.');
    await ada.see('held-out');
    await ada.open(`${desk.replace(/\/data\/.*/, '')}/people/trail`);
    await ada.see('looked at held-out figures of a decision tree');
    await ada.page.goBack();
  });

  it('sets two runs beside each other with the corrected test', async () => {
    await ada.press('Compare');
    const other = await ada.page
      .waitForFunction(() =>
        [...document.querySelectorAll('label select option')]
          .find((option) => option.textContent.includes('most frequent'))
          ?.getAttribute('value'),
      )
      .then((value) => value.jsonValue());
    await ada.page.locator('::-p-aria([name="Compare with"][role="combobox"])').fill(other ?? '');
    await ada.see('Figure by figure');
    await ada.see('McNemar, exact');
  });

  it('predicts one case, and warns outside the range of the training rows', async () => {
    await ada.press('One case');
    await ada.fill('weight', '5');
    await ada.press('Predict this case');
    await ada.see('lost: yes');
    await ada.see('Why it says so');
    await ada.fill('weight', '5000');
    await ada.press('Predict this case');
    await ada.see('5000 lies outside the range of the training rows');
  });

  it('predicts a table, and refuses one that lacks a column of the model', async () => {
    await ada.drop(
      'Predict a table',
      fileWith('new.csv', 'colony,weight,mites,forage\nn1,5,1,lime\nn2,90,1,rape\n'),
    );
    await ada.see('predictions.csv is in your downloads: 2 rows.');
    await ada.drop('Predict a table', fileWith('less.csv', 'weight\n5\n'));
    await ada.see('The data have no column for');
    await ada.press('the model as PMML');
  });

  it('makes the run a reference, by which an exercise anchors its marks', async () => {
    await ada.press('Use as reference run');
    await ada.see('This is a reference run');
    await ada.follow('Release');
    await ada.follow('Set an exercise');
    await ada.see('a decision tree');
    const anchor = await ada.page.waitForSelector('button[aria-label^="all at a decision tree"]');
    const [, figure] = ((await anchor?.evaluate((node) => node.getAttribute('aria-label'))) ?? '').split(
      ', ',
    );
    await anchor?.click();
    await ada.page.waitForFunction(
      (wanted) =>
        Math.abs(
          Number(document.querySelector<HTMLInputElement>('input[aria-label="score for all"]')?.value) -
            wanted,
        ) < 0.001,
      {},
      Number(figure),
    );
  });

  it('grows a forest: its error out of bag as trees are added, and what it splits on', async () => {
    await ada.open(`${desk}/try`);
    await ada.choose('model', 'forest');
    await ada.press('Run');
    await ada.find('[data-run="forest"]');
    await ada.press('Model');
    await ada.see('Out-of-bag error by trees');
    await ada.see('more trees change nothing');
    await ada.see('What it splits on');
    const plot = await ada.page.$eval(
      '[aria-label="Out-of-bag error by trees"][role="img"]',
      (own) => own.textContent,
    );
    expect(plot).toContain('error rate');
    expect(ada.complaints).toEqual([]);
  });

  it('shows what each column is worth on rows that were not seen, where the forest overrates one of many values', async () => {
    await ada.press('Columns');
    await ada.see('mites has 83 different values, so there are many places to split it');
    const lines = await ada.page.$$eval('[aria-label="What each column is worth"] tbody tr', (rows) =>
      rows.map((row) => Array.from(row.querySelectorAll('td'), (cell) => cell.innerText.trim())),
    );
    expect(lines.map(([column, , , word]) => [column, word])).toEqual([
      ['weight', ''],
      expect.arrayContaining([expect.stringContaining('not shown to help')]),
      expect.arrayContaining([expect.stringContaining('not shown to help')]),
    ]);
  });

  it('follows predictions along a column, and along two as a map', async () => {
    await ada.find('[aria-label="probability of yes along weight"][role="img"]');
    await ada.page.select('::-p-aria([name="and"])', 'forage');
    await ada.find('[aria-label="probability of yes by weight and forage"]');
    await ada.see('the larger the square, the higher');
    expect(ada.complaints).toEqual([]);
  });

  it('runs every family at default settings, says which to tune first, and begins its curve', async () => {
    await ada.press('Run every family at default settings');
    await ada.find('[data-run="network"]');
    await ada.see('families at default settings');
    await ada.press('The best first');
    // The list is drawn in its new order after the click, and again as runs are done.
    const inOrder = async () => {
      const listed = (await runsOf(ada)).map(({ cells }) => Number(cells[2]));
      const means = listed.filter((mean) => !Number.isNaN(mean));
      return means.join() === [...means].sort((a, b) => b - a).join();
    };
    let isInOrder = await inOrder();
    for (let look = 0; look < 50 && !isInOrder; look++) {
      await new Promise((resolve) => setTimeout(resolve, 100));
      isInOrder = await inOrder();
    }
    expect(isInOrder).toBe(true);
    await ada.find('[data-families] button');
    const tuned = await ada.page.$eval('[data-families] button', (button) => {
      button.click();
      return button.innerText;
    });
    await ada.page.waitForFunction(
      (title) =>
        document.querySelector<HTMLSelectElement>('[aria-label="model"]')?.selectedOptions[0]?.text === title,
      {},
      tuned,
    );
    expect(ada.complaints).toEqual([]);
  });
});
