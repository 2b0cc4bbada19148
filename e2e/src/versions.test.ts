import { randomUUID } from 'node:crypto';
import type { ElementHandle } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setDemoStage, type DemoStage } from './demo-stage.js';
import { fileWith } from './program.js';
import { Someone } from './someone.js';

/** What is named, opened again, made current, taken back and deleted; and help on the way. */

let stage: DemoStage;
let ada: Someone;
let course = '';

const tableOf = (rows: number, more = '') =>
  `id,x,lost\n${Array.from({ length: rows }, (_, i) => `r${i}${more},${(i * 7) % 13},${i % 3 === 0 ? 'yes' : 'no'}`).join('\n')}\n`;

beforeAll(async () => {
  stage = await setDemoStage();
  ada = await Someone.at(stage.browser, stage.program.address);
  await ada.signUp('Ada Instructor', `${randomUUID()}@test.example`);
  await ada.fill('Name of the course', 'Versions');
  await ada.press('Make the course');
  await ada.see('No table yet');
  course = ada.path.replace(/\/data$/, '');
});
afterAll(() => stage.end());

const focused = () => ada.page.evaluate(() => document.activeElement?.textContent ?? '');

describe('data sets', () => {
  it('come from several files at once', async () => {
    const field = await ada.page.waitForSelector('input[type=file][aria-label="Import a table"]');
    await (field as ElementHandle<HTMLInputElement>).uploadFile(
      fileWith('hives.csv', tableOf(60)),
      fileWith('bees.csv', tableOf(30)),
    );
    await ada.follow('Hives');
    await ada.see('60 rows as they came');
    await ada.open(`${course}/data`);
    await ada.see('Bees');
  });

  it('are renamed in place, by keyboard, and the focus stays', async () => {
    await ada.follow('Hives');
    await ada.page.locator('button[aria-label="Rename the data set"]').click();
    await ada.page.keyboard.down('Control');
    await ada.page.keyboard.press('a');
    await ada.page.keyboard.up('Control');
    await ada.page.keyboard.type('Hives of the hollow');
    await ada.page.keyboard.press('Enter');
    await ada.page.waitForFunction(() => document.title.startsWith('Hives of the hollow'));
    await ada.find('button[aria-label="Rename the data set"]');
    expect(await focused()).toBe('Rename');
    expect(await ada.barriers()).toEqual([]);
  });
});

describe('a version', () => {
  it('that is not current is opened, looked at, split, and made current again', async () => {
    await ada.choose('target', 'lost');
    await ada.choose('identifier', 'id');
    await ada.press('Save this');
    await ada.see('Saved. Split the rows');
    await ada.follow('Prepare');
    await ada.drop('Import a new raw file', fileWith('wrong.csv', tableOf(12, 'w')));
    await ada.see('12 rows as they came');
    await ada.follow('Open version 1');
    await ada.see('Version 1 is open.');
    await ada.see('60 rows as they came');
    await ada.follow('Split');
    await ada.see('What follows from it');
    await ada.press('Save this split');
    await ada.see('Saved. Set an exercise on it');
    expect(await ada.barriers()).toEqual([]);
    await ada.press('Make version 1 current');
    await ada.seeGone('is open.');
    await ada.see('60 rows as they came');
    await ada.page.waitForFunction(() => /\/data\/[0-9a-f-]{36}\/split$/.test(location.pathname));
  });

  it('that was wrong is taken back', async () => {
    await ada.follow('Prepare');
    await ada.press('Take back version 2');
    await ada.see('Deletes the raw table of version 2 for good.');
    expect(await focused()).toContain('Deletes the raw table');
    await ada.press('Take back: yes');
    // Until it has gone: the question whether to take it back goes with its line.
    await ada.seeGone('Deletes the raw table of version 2');
    await ada.press('Take back version 1');
    await ada.see('no other version would be left');
  });
});

describe('a split', () => {
  it('has a name, by which folds know it, and is not deleted while an exercise is on it', async () => {
    await ada.follow('Release');
    await ada.page.locator('button[aria-label^="Name the split"]').click();
    await ada.page.keyboard.type('Main');
    await ada.press('Save the name');
    await ada.find('button[aria-label="Rename Main"]');
    await ada.follow('Split');
    await ada.follow('Folds: test every row in turn');
    await ada.see('training rows of Main');
  });

  it('is where an exercise begins, from the list of exercises', async () => {
    await ada.follow('Exercises');
    await ada.follow('Set the first one');
    await ada.see('On which split?');
    expect(await ada.barriers()).toEqual([]);
    await ada.follow('Set an exercise');
    await ada.press('Save the draft');
    await ada.follow('Exercises');
    await ada.see('draft');
    await ada.follow('Data');
    await ada.follow('Hives of the hollow');
    await ada.follow('Release');
    await ada.press('Delete Main');
    await ada.see('The split stays: it is used by the exercise');
    await ada.press('Leave it');
    await ada.page.locator('button[aria-label="Delete the data set"]').click();
    await ada.see('The data set stays');
  });
});

describe('a data set that nothing uses', () => {
  it('is deleted', async () => {
    await ada.open(`${course}/data`);
    await ada.follow('Bees');
    await ada.page.locator('button[aria-label="Delete the data set"]').click();
    await ada.see('Deletes the data set for good, and with it 1 version.');
    await ada.press('Delete: yes');
    await ada.page.waitForFunction(() => location.pathname.endsWith('/data'));
    await ada.seeGone('Bees');
  });
});

describe('help', () => {
  it('opens with ?, says what the page is for, and leads to the guide', async () => {
    await ada.follow('Exercises');
    await ada.see('draft');
    await ada.page.keyboard.press('?');
    await ada.see('All exercises of the course, with their state');
    expect(await ada.barriers()).toEqual([]);
    await ada.follow('Read more in the guide');
    await ada.see('Guide for instructors');
    await ada.follow('All guides');
    expect(await ada.barriers()).toEqual([]);
    await ada.follow('HTTP API');
    await ada.see('GET /api/v1/courses/{course}/data-sets');
    await ada.see('DataSetDetail');
  });

  it('does not open while somebody types', async () => {
    await ada.open(`${course}/people`);
    await ada.page.locator('input[type=text], input[type=email], input:not([type])').click();
    await ada.page.keyboard.type('?');
    expect(await ada.page.$('[role=dialog]')).toBeNull();
  });
});

describe('a gradebook that is wider than the window', () => {
  it('scrolls, with the names in sight', async () => {
    const { ines } = stage;
    await ines.page.setViewport({ width: 600, height: 700 });
    await ines.open(`${stage.course}/gradebook`);
    await ines.see('How marks make a total');
    const places = await ines.page.evaluate(() => {
      const region = document.querySelector('[role=region][aria-label=Gradebook]');
      const cells = [...(region?.querySelectorAll('tbody tr:first-child td') ?? [])];
      const left = () => cells.slice(0, 2).map((cell) => Math.round(cell.getBoundingClientRect().left));
      const before = left();
      region?.scrollBy({ left: 200 });
      return { before, after: left() };
    });
    expect(places.after[0]).toBe(places.before[0]);
    expect(places.after[1]).toBeLessThan((places.before[1] ?? 0) - 100);
    await ines.page.setViewport({ width: 1280, height: 800 });
  });
});
