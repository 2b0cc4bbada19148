import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { strToU8, zipSync } from 'fflate';
import { fileWith, openData, setStage, type Stage } from './program.js';
import type { Someone } from './someone.js';

/** Look and Split on Fisher's iris data and on a series in time: two columns, rows by keyboard, ways of splitting, folds. */

let stage: Stage;
let ada: Someone;
let flowers: string;
let readings: string;

const DAYS = 60;
const series = `day,hive,weight,tomorrow\n${Array.from({ length: DAYS }, (_, i) => {
  const day = new Date(Date.UTC(2026, 2, 1 + i)).toISOString().slice(0, 10);
  return `${day},${'ABC'[i % 3]},${(30 + i / 10).toFixed(1)},${(30.1 + i / 10 + ((i * 7) % 5) / 50).toFixed(2)}`;
}).join('\n')}\n`;

beforeAll(async () => {
  stage = await setStage();
  ada = stage.instructor;
  await ada.signUp('Ada Instructor', `${randomUUID()}@test.example`);
  await ada.fill('Name of the course', 'Desks');
  await ada.press('Make the course');
  await ada.see('No table yet');
});
afterAll(() => stage.end());

describe('a table that is brought', () => {
  it('may be pasted from a spreadsheet', async () => {
    await ada.page.evaluate(
      (text) => {
        const clipboardData = new DataTransfer();
        clipboardData.setData('text/plain', text);
        document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }));
      },
      series.replaceAll(',', '\t'),
    );
    await ada.follow('Pasted table');
    await ada.see('60 rows as they came');
    readings = ada.path.replace('/look', '');
  });

  it('is chosen among several of one file', async () => {
    const resources = ['flowers', 'notes'].map((name) => ({ name, path: `${name}.csv` }));
    const zip = zipSync({
      'datapackage.json': strToU8(JSON.stringify({ resources })),
      'flowers.csv': new Uint8Array(readFileSync(openData('iris.csv'))),
      'notes.csv': strToU8('a,b\n1,2\n'),
    });
    await ada.follow('Data');
    await ada.drop('Import a table', fileWith('garden.zip', zip));
    await ada.see('garden.zip has 2 tables: which one is it?');
    await ada.press('flowers');
    await ada.follow('Garden');
    await ada.see('150 rows as they came');
    flowers = ada.path.replace('/look', '');
  });
});

describe('a table that is pasted at Prepare', () => {
  it('waits until it is meant, and comes below the rows where that is chosen', async () => {
    await ada.open(`${readings}/prepare`);
    await ada.choose('where it goes', 'append');
    await paste('day\thive\tweight\ttomorrow\n2026-06-01\tA\t36\t36.1\n');
    await ada.press('Leave it');
    await ada.seeGone('Take the pasted table');
    await paste('day\thive\tweight\ttomorrow\n2026-06-02\tB\t36\t36.2\n');
    await ada.press('Take the pasted table');
    await ada.see('61 rows');
  });
});

describe('Look', () => {
  it('keeps what is said of a column', async () => {
    await ada.open(`${flowers}/look`);
    await ada.press('petal_width');
    await ada.fill('What petal_width means', 'In centimetres');
    await ada.page.keyboard.press('Enter');
    await ada.page.waitForFunction(
      async (path) => {
        const detail = (await (await fetch(path)).json()) as { descriptions: Record<string, string> };
        return detail.descriptions['petal_width'] === 'In centimetres';
      },
      {},
      apiOf(flowers),
    );
  });

  it('shows the target along each distribution once it is marked', async () => {
    await ada.choose('target', 'target');
    await ada.page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('select[aria-label=task]')?.value === 'multiclass',
    );
    await ada.press('Save this');
    await ada.see('distribution, dark: target is setosa');
  });

  it('leads from the strongest pair to the two columns, with the line that fits them', async () => {
    await ada.follow('Correlations');
    await ada.follow('petal_length and petal_width');
    await ada.see('Pearson 0.96');
    expect(await ada.barriers()).toEqual([]);
    await ada.choose('form', 'line');
    // The slope of R's lm(Petal.Width ~ Petal.Length, iris), from test/reference/pair.py of the core.
    await ada.see('petal_width ≈ −0.3631 + 0.4158 × petal_length');
    await ada.page.reload();
    await ada.see('it explains 92.7 % of the variance');
    await ada.choose('column upwards', 'target');
    await ada.see('The dot is the median');
  });

  it('goes through rows by keyboard and copies cells as a spreadsheet takes them', async () => {
    const { page } = ada;
    await ada.open(`${flowers}/look`);
    await ada.see('1 to 14 of 150');
    await page.focus('[role=grid]');
    for (const key of ['End', 'Home', 'ArrowDown', 'ArrowRight'] as const) await page.keyboard.press(key);
    await page.keyboard.down('Shift');
    for (const key of ['ArrowDown', 'ArrowRight'] as const) await page.keyboard.press(key);
    await page.keyboard.up('Shift');
    // Listens before the keys are pressed.
    await page.evaluate(() => {
      const keep = (event: ClipboardEvent) => {
        document.body.dataset.copied = event.clipboardData?.getData('text/plain') ?? '';
      };
      document.addEventListener('copy', keep, { once: true });
    });
    await page.keyboard.down('Control');
    await page.keyboard.press('c');
    await page.keyboard.up('Control');
    // The second and third of Fisher's flowers: sepal width and petal length.
    await page.waitForFunction(() => document.body.dataset.copied !== undefined);
    expect(await page.evaluate(() => document.body.dataset.copied)).toBe('3\t1.4\n3.2\t1.3');
    await ada.see('Copied 2 × 2 cells.');
    await page.keyboard.down('Control');
    await page.keyboard.press('End');
    await page.keyboard.up('Control');
    await ada.see('137 to 150 of 150');
    await ada.enter('condition', 'petal_length > 6');
    await ada.see('of 9');
  });
});

describe('Split', () => {
  it('sets two plans beside each other, and says how lucky a draw is', async () => {
    await ada.open(`${flowers}/split`);
    await ada.see('What follows from it');
    // One flower stands in the table twice: both plans drop it.
    await ada.choose('what becomes of repeated rows', 'drop');
    await ada.see('1 repeated');
    await ada.press('Compare with another plan');
    await ada.choose('way of splitting', 'every');
    await ada.fill('n', '3');
    await ada.see('Two plans');
    await ada.see('T 100 · H 49');
    await ada.page.keyboard.press('Tab');
    // Both digits are one change.
    await ada.fill('n', '14');
    await ada.see('T 139 · H 10');
    await ada.press('Undo');
    await ada.see('T 100 · H 49');
    await ada.press('Redo');
    await ada.see('T 139 · H 10');
    await ada.page.keyboard.down('Control');
    await ada.page.keyboard.press('z');
    await ada.page.keyboard.up('Control');
    await ada.see('T 100 · H 49');
    await ada.see('T 119 · H 30');
    expect(await ada.barriers()).toEqual([]);
    await ada.press('Use the other plan');
    await ada.press('Stop comparing');
    await ada.press('Try twenty seeds');
    await ada.see('adversarial validation, area');
    await ada.see('of 20');
    await ada.press('Save this split');
    await ada.see('Saved. Set an exercise on it');
  });

  it('deals the training rows into folds, keeps them, and gives them out as a table', async () => {
    await ada.follow('Folds: test every row in turn');
    await ada.fill('number of folds', '7');
    await ada.see('119 rows in 7 folds: 17 tested in each.');
    await ada.see('Every row is tested once in each repeat');
    expect(await ada.barriers()).toEqual([]);
    await ada.press('Save these folds');
    await ada.see('Saved folds');
    const href = await ada.page.$eval('a[download]', (link) => link.getAttribute('href') ?? '');
    const [header, ...lines] = (await ada.fetch(href)).text.trim().split('\n');
    expect(header).toBe('row,repeat,fold');
    expect(lines).toHaveLength(119);
    await ada.open(`${flowers}/release`);
    await ada.follow('Set an exercise');
    await ada.find('select[aria-label="folds in the pack"]');
    const value = await ada.page.$eval(
      'select[aria-label="folds in the pack"] option:nth-child(2)',
      (option) => option.getAttribute('value') ?? '',
    );
    await ada.choose('folds in the pack', value);
    await ada.press('Release');
    await ada.see('folds.csv');
    await ada.see('columns.csv');
  });

  it('follows time: the latest rows are held out, and folds train on what lies before', async () => {
    await ada.open(`${readings}/look`);
    await ada.choose('target', 'tomorrow');
    await ada.page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('select[aria-label=task]')?.value === 'regression',
    );
    await ada.choose('time', 'day');
    await ada.press('Save this');
    await ada.follow('Split the rows');
    await ada.see('All rows of earlier parts lie before the last part in day');
    await ada.choose('how parts are sized', 'rows');
    await ada.fill('number of held-out rows', '10');
    await ada.fill('gap', '5');
    await ada.see('held-out 10');
    await ada.see('training 46');
    await ada.see('5 fell out: 5 in the gap');
    await ada.choose('way of splitting', 'draw');
    await ada.see('do not lie before the last part in day');
    await ada.follow('Folds: test every row in turn');
    await ada.see('an open bar over the rows');
    await ada.page.reload();
    await ada.see('an open bar over the rows');
    expect(ada.complaints).toEqual([]);
  });
});

const paste = (cells: string) =>
  ada.page.evaluate((text) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', text);
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }));
  }, cells);

const apiOf = (path: string) => `/api/v1${path.replace('/data/', '/data-sets/')}`;
