import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Browser, ElementHandle } from 'puppeteer-core';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fileWith, openData, startProgram, type Program } from './program.js';
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

const section = (place: number) => `section[aria-label="Question ${place}"]`;

/** Presses the button of a name within a question. */
const pressIn = (someone: Someone, place: number, name: string) =>
  someone.page.$eval(
    section(place),
    (node, text) => {
      const button = [...node.querySelectorAll('button')].find((one) => one.textContent === text);
      if (!button) throw new Error(`no button “${text}”`);
      button.click();
    },
    name,
  );
const dropIn = async (someone: Someone, place: number, path: string) => {
  const field = await someone.page.waitForSelector(`${section(place)} input[type=file]`);
  await (field as ElementHandle<HTMLInputElement>).uploadFile(path);
  await someone.find(`${section(place)} [data-precheck=holds]`);
};
/** Chooses the radio button beside a text within a question. */
const tick = (someone: Someone, place: number, legend: string, text: string) =>
  someone.page.$eval(
    section(place),
    (node, [said, wanted]) => {
      const set = [...node.querySelectorAll('fieldset')].find((one) => one.textContent.includes(said));
      const label = [...(set?.querySelectorAll('label') ?? [])].find(
        (one) => one.textContent.trim() === wanted,
      );
      if (!label) throw new Error(`no choice “${wanted}” at “${said}”`);
      label.click();
    },
    [legend, text] as const,
  );

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
    const files = unzipSync((await sam.fetch(`/api/v1${exercise}/pack`)).bytes);
    const text = (name: string) => Buffer.from(files[name] ?? new Uint8Array()).toString('utf8');
    const rows = text('training.csv').trim().split('\n').length - 1;
    const all = readFileSync(openData('iris.csv'), 'utf8').trim().split('\n').slice(1);
    const truth = text('held-out.csv')
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => {
        const [id = '', ...features] = line.split(',');
        const flower = all.find((own) =>
          features.every((cell, i) => Number(own.split(',')[i]) === Number(cell)),
        );
        return `${id},${flower?.split(',')[4] ?? ''}`;
      });
    const numbered = (header: string, of: (row: number) => string | number) =>
      `row,${header}\n${Array.from({ length: rows }, (_, row) => `${row},${of(row)}`).join('\n')}\n`;

    await dropIn(sam, 1, fileWith('predictions.csv', `row,prediction\n${truth.join('\n')}\n`));
    await pressIn(sam, 1, 'Hand in');
    await sam.see('Receipt of your first answer to question 1');
    await dropIn(
      sam,
      2,
      fileWith(
        'split.csv',
        numbered('part', (row) => (row % 5 === 0 ? 'test' : 'training')),
      ),
    );
    await pressIn(sam, 2, 'Hand in');
    await sam.see('4 of 4 marks');
    await dropIn(
      sam,
      2,
      fileWith(
        'split_v2.csv',
        numbered('part', (row) => (row % 5 === 0 && row > 5 ? 'test' : 'training')),
      ),
    );
    await pressIn(sam, 2, 'Hand in');
    await sam.see('Receipt of your second answer to question 2');
    const earlier = 'select[aria-label="earlier answer"] option:last-child';
    await sam.find(earlier);
    await sam.choose('earlier answer', await sam.page.$eval(earlier, (option) => option.value));
    await sam.see('2 lines of 119 differ.');
    // Folds are counted from 1: the file is refused before it is sent.
    await sam.page.waitForSelector(`${section(3)} input[type=file]`).then((field) =>
      (field as ElementHandle<HTMLInputElement>).uploadFile(
        fileWith(
          'zero.csv',
          numbered('fold', (row) => row % 5),
        ),
      ),
    );
    await sam.see('folds are numbered from 1');
    await pressIn(sam, 3, 'Choose another');
    await dropIn(
      sam,
      3,
      fileWith(
        'folds.csv',
        numbered('fold', (row) => (row % 5) + 1),
      ),
    );
    await pressIn(sam, 3, 'Hand in');
    await sam.see('Receipt of your first answer to question 3');

    // Near what trees give on these rows, over ten folds.
    const curve = [
      [1, 0.333, 0.333],
      [2, 0.04, 0.06],
      [3, 0.02, 0.05],
      [4, 0.01, 0.05],
      [6, 0, 0.055],
      [8, 0, 0.055],
      [12, 0, 0.055],
    ];
    await dropIn(sam, 4, fileWith('curve.csv', `depth,training,validation\n${curve.join('\n')}\n`));
    await tick(sam, 4, 'depth chosen', '3');
    await tick(sam, 4, 'at depth 1 the model is', 'underfitted');
    // Nothing is sent before all is chosen.
    await pressIn(sam, 4, 'Hand in');
    await sam.see('nothing is chosen');
    await tick(sam, 4, 'at depth 12 the model is', 'overfitted');
    await pressIn(sam, 4, 'Hand in');
    await sam.see('depth 12 is named correctly');

    const asked = await sam.page.$eval(section(5), (node) => node.textContent);
    const [, a = '0', b = '0', k = '0'] =
      /has (\d+) values .* and (\d+) of the other\. Each pair is tried by (\d+)-fold/.exec(asked) ?? [];
    await sam.page.$eval(`${section(5)} input`, (field) => field.focus());
    await sam.page.keyboard.type(String(Number(a) * Number(b) * Number(k)));
    await pressIn(sam, 5, 'Hand in');
    await sam.see('fits is right');

    await tick(sam, 6, 'Each row is tested once', 'true');
    await pressIn(sam, 6, 'Hand in');
    await sam.see('3 of 3 marks');
    // The receipt is in sight, however far down the sheet the question is, and is read next.
    const receipt = await sam.page.evaluate(() => {
      const { top = -1 } = document.getElementById('receipt')?.getBoundingClientRect() ?? {};
      return { top, height: innerHeight, focused: document.activeElement?.id, scrolled: scrollY };
    });
    expect(receipt.focused).toBe('receipt');
    expect((await sam.text()).split('Receipt of your').length - 1).toBe(1);
    expect(receipt.scrolled).toBeGreaterThan(300);
    expect(receipt.top).toBeGreaterThanOrEqual(0);
    expect(receipt.top).toBeLessThan(receipt.height);
    const { receipts } = JSON.parse((await sam.fetch(`/api/v1${exercise}/receipts`)).text) as {
      receipts: { outcome: string }[];
    };
    expect(receipts.map(({ outcome }) => outcome)).toEqual(Array(7).fill('checked'));
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
