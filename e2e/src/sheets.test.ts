import { randomUUID } from 'node:crypto';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { openData, startProgram, type Program } from './program.js';
import { answerEveryKind, pressIn, tick } from './sheet-answers.js';
import { Someone, startBrowser } from './someone.js';

/** An exercise with a question of every kind, from composing to marks, on the open table of iris. */

let program: Program;
let browser: Browser;
let ada: Someone;
let sam: Someone;
let exercise = '';
let joinCode = '';
const emails = { ada: `${randomUUID()}@test.example`, sam: `${randomUUID()}@test.example` };

beforeAll(async () => {
  program = await startProgram();
  browser = await startBrowser();
  ada = await Someone.at(browser, program.address);
  sam = await Someone.at(browser, program.address);
});
afterAll(async () => {
  await browser.close();
  await program.stop();
});

describe('an exercise of every kind', () => {
  it('is composed on one sheet: questions are added, written in, moved and taken out', async () => {
    await ada.signUp('Ada Instructor', emails.ada);
    await ada.fill('Name of the course', 'Flowers');
    await ada.press('Make the course');
    await ada.drop('Import a table', openData('iris.csv'));
    await ada.follow('Iris');
    await ada.choose('target', 'target');
    await ada.page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('select[aria-label=task]')?.value === 'multiclass',
    );
    await ada.press('Save this');
    await ada.follow('Split the rows');
    await ada.choose('what becomes of repeated rows', 'drop');
    await ada.see('1 repeated');
    await ada.press('Save this split');
    await ada.follow('Set an exercise on it');
    // Iris is known by its shape.
    await ada.see('Students may find the answers elsewhere.');
    await ada.fill('Title', 'All kinds of flowers');
    for (const kind of ['a split', 'folds', 'a curve', 'values', 'a choice'])
      await ada.press(`add a question: ${kind}`);
    await ada.see('Question 6: key and marks');
    await ada.press('add a question: values');
    await ada.press('remove question 7');
    await ada.press('2 · The split you used: write in it');
    await ada.fill('title of question 2', 'Your split');
    await ada.choose('stratify by', '');
    await ada.fill('points by which sizes may be off', '2');
    await ada.press('3 · The folds you used: write in it');
    await ada.choose('stratify by', '');
    await ada.press('5 · Figures of your own: write in it');
    await ada.see('Random variants, with their keys');
    await ada.choose('what is computed', 'grid-fits');
    await ada.see('A grid has');
    await ada.page.reload();
    await ada.see('Question 5: key and marks');
    await ada.press('6 · What may be said: write in it');
    for (let left = 3; left > 0; left--) await ada.press('remove statement 1');
    await ada.press('Add a statement');
    await ada.fill('statement 1', 'Each row is tested once');
    await ada.choose('truth of statement 1', 'true');
    await ada.choose('feedback', 'everything');
  });

  it('has points of marks that are moved along the line by keyboard', async () => {
    await ada.press('1 · Hand in your predictions: write in it');
    await ada.fill('score for all', '0.95');
    const most = await ada.page.waitForSelector('[role=slider][aria-label="score for most, on the line"]');
    const valueOf = () => ada.page.$eval('input[aria-label="score for most"]', (field) => field.value);
    const before = Number(await valueOf());
    await most?.evaluate((grip) => (grip as SVGElement).focus());
    await ada.page.keyboard.press('ArrowRight');
    expect(Number(await valueOf())).toBeGreaterThan(before);
    for (let step = 0; step < 6; step++) await ada.page.keyboard.press('PageUp');
    expect(Number(await valueOf())).toBeLessThan(0.95);
  });

  it('has points of marks that are dragged, and that stop at one another', async () => {
    const grip = await ada.page.waitForSelector('[role=slider][aria-label="score for nothing, on the line"]');
    const box = await grip?.boundingBox();
    const valueOf = () =>
      ada.page.$eval('input[aria-label="score for nothing"]', (field) => Number(field.value));
    const before = await valueOf();
    const [x, y] = [(box?.x ?? 0) + (box?.width ?? 0) / 2, (box?.y ?? 0) + (box?.height ?? 0) / 2];
    await ada.page.mouse.move(x, y);
    await ada.page.mouse.down();
    await ada.page.mouse.move(x + 15, y, { steps: 5 });
    expect(await valueOf()).toBeGreaterThan(before);
    await ada.page.mouse.move(x + 600, y, { steps: 8 });
    await ada.page.mouse.up();
    const most = await ada.page.$eval('input[aria-label="score for most"]', (field) => Number(field.value));
    expect(await valueOf()).toBeLessThan(most);
    await ada.fill('score for nothing', '0.5');
  });

  it('is tried as a student would, without a trace, with its keys in sight', async () => {
    await ada.press('Try it as a student');
    await ada.see('nothing is saved');
    await ada.see('true: Each row is tested once');
    await tick(ada, 6, 'Each row is tested once', 'false');
    await pressIn(ada, 6, 'Hand in');
    await ada.see('0 of 3 marks');
    await ada.press('Back to composing');
  });

  it('is released with keys and an audited pack', async () => {
    await ada.press('Release');
    await ada.see('Audit of the pack');
    await ada.see('30 held-out rows with the values of target');
    exercise = ada.path;
    joinCode = await ada.joinCode();
  });

  it('is answered by a student: files of four kinds, typed numbers and statements', async () => {
    await sam.signUp('Sam Student', emails.sam);
    await sam.fill('Code', joinCode);
    await sam.press('Join');
    await sam.follow('All kinds of flowers');
    await answerEveryKind(sam, exercise);
  });

  it('is seen by the instructor question by question, and returned', async () => {
    await ada.open(`${exercise}/submissions`);
    await ada.see('1 of 1 student, 7 answers');
    await ada.press('Measure it');
    await ada.see('1 score was shown in 1 attempt.');
    await ada.see('That is no sign of wear.');
    await ada.follow('5 · Figures of your own');
    await ada.follow('Sam Student');
    await ada.see('fits is right');
    // Another question while an answer is open, and back.
    await ada.follow('6 · What may be said');
    await ada.see('Open a submission from the table');
    await ada.follow('5 · Figures of your own');
    await ada.follow('Sam Student');
    await ada.press('Adjust the marks');
    await ada.fill('reason of the adjustment', 'Found at the second look.');
    await ada.press('Give these marks');
    await ada.see('given by Ada Instructor');
    await ada.press('Return to students');
    await ada.press('Return to students: yes');
    await ada.see('returned · due');
    await sam.follow('Marks');
    await sam.see('29');
    await sam.open(exercise);
    // What the latest receipt says moves the list below it.
    await sam.see('Each row is tested once: true');
    await sam.press('5 · first answer');
    await sam.see('Marks given by hand: Found at the second look.');
  });

  it('is corrected: what changes is read before anything is applied', async () => {
    await ada.open(exercise);
    await ada.follow('Correct keys or marks');
    await ada.press('6 · What may be said: write in it');
    await ada.choose('truth of statement 1', 'false');
    await ada.press('Compute what changes');
    await ada.see('question 6: 3 → 0');
    expect(await ada.barriers()).toEqual([]);
    await sam.follow('Exercises');
    await sam.see('29 of 29');
    await ada.press('Apply the correction');
    await ada.press('Apply the correction: yes');
    await ada.see('Say what has changed');
    await ada.fill('What students read of the correction', 'The statement was marked incorrectly.');
    await ada.press('Apply the correction: yes');
    await ada.see('Students read: The statement was marked incorrectly.');
    // Sam’s page is told, and asks again.
    await sam.see('26 of 29');
  });

  it('is reopened, but for questions whose correct answers were shown', async () => {
    await ada.open(exercise);
    await ada.press('Reopen');
    await ada.see('What the return showed them stays known');
    expect(await ada.barriers()).toEqual([]);
    await ada.fill('What students read of the change', 'Reopened for those who were ill.');
    await ada.press('Reopen and notify students');
    await ada.see('Students read: Reopened for those who were ill.');
    await sam.open(exercise);
    await sam.see('Reopened for those who were ill.');
    await sam.see('Its correct answers were shown when the exercise was returned');
    expect((await sam.text()).split('Its correct answers were shown').length - 1).toBe(2);
    await ada.open(`${exercise}/submissions`);
    await ada.press('Return to students');
    await ada.press('Return to students: yes');
    await ada.see('returned · due');
  });

  it('of which nothing was complained on the way, and no barrier is met', async () => {
    await sam.open(exercise);
    await sam.see('Returned · deadline ');
    expect(await sam.text()).not.toMatch(/deadline [^·]*, in /);
    expect(await sam.barriers()).toEqual([]);
    expect([...ada.complaints, ...sam.complaints]).toEqual([]);
  });
});
