import { readFileSync } from 'node:fs';
import { expect } from '@jest/globals';
import { unzipSync } from 'fflate';
import type { ElementHandle } from 'puppeteer-core';
import { fileWith, openData } from './program.js';
import type { Someone } from './someone.js';

const section = (place: number) => `section[aria-label="Question ${place}"]`;

/** Presses the button of a name within a question. */
export const pressIn = (someone: Someone, place: number, name: string) =>
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
export const tick = (someone: Someone, place: number, legend: string, text: string) =>
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

/** Answers each of seven questions, of every kind but a model: files of four kinds, typed numbers, statements and choices. */
export async function answerEveryKind(sam: Someone, exercise: string): Promise<void> {
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
}
