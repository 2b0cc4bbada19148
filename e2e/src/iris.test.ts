import { randomUUID } from 'node:crypto';
import { readFileSync, rmSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { unzipSync } from 'fflate';
import { fileWith, openData, setStage, type Stage } from './program.js';
import type { Someone } from './someone.js';
import { flowers, nearestMean } from './nearest-mean.js';

/** The whole path in the browser on Fisher's iris data, from the table to the marks. */

let stage: Stage;
let instructor: Someone;
let student: Someone;

beforeAll(async () => {
  stage = await setStage();
  ({ instructor, student } = stage);
});
afterAll(() => stage.end());

const emails = { instructor: `${randomUUID()}@test.example`, student: `${randomUUID()}@test.example` };
let joinCode = '';
let exercisePath = '';
let predictions: { id: string; label: string; truth: string }[] = [];

describe('iris, from the table to the marks', () => {
  it('an instructor makes a course and drops a table, whose columns and rows appear', async () => {
    await instructor.signUp('Ada Instructor', emails.instructor);
    await instructor.fill('Name of the course', 'Flowers');
    await instructor.press('Make the course');
    await instructor.see('No table yet');
    await instructor.drop('Import a table', openData('iris.csv'));
    await instructor.follow('Iris');
    await instructor.see('150 rows as they came');
    await instructor.see('sepal_length');
    await instructor.see('1 to 14 of 150');
  });

  it('marks the target, whose task is suggested', async () => {
    await instructor.choose('target', 'target');
    await instructor.page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('select[aria-label=task]')?.value === 'multiclass',
    );
    await instructor.press('Save this');
    await instructor.follow('Split the rows');
  });

  it('splits the rows: what follows changes with the plan, and the split is saved', async () => {
    // One flower of iris stands in the table twice.
    await instructor.see('training 120');
    await instructor.choose('what becomes of repeated rows', 'drop');
    await instructor.see('1 repeated');
    await instructor.fill('share of held-out rows in percent', '30');
    await instructor.see('held-out 45');
    // Largest remainders: 34.7, 34.7 and 35.0 of 149 flowers go to training.
    await instructor.see('training 104');
    await instructor.press('Save this split');
    await instructor.follow('Set an exercise on it');
  });

  it('sets an exercise and releases it', async () => {
    await instructor.fill('Title', 'Which species?');
    await instructor.choose('feedback', 'rounded');
    await instructor.press('Release');
    await instructor.see('Audit of the pack');
    await instructor.see('Neither the target nor a withheld column is among the held-out features');
    exercisePath = instructor.path;
    joinCode = await instructor.joinCode();
    expect(joinCode).toMatch(/^[A-Z0-9]{5}-[A-Z0-9]{5}$/);
  });

  it('a student joins with the code and fetches the pack', async () => {
    await student.signUp('Sam Student', emails.student);
    await student.fill('Code', joinCode);
    await student.press('Join');
    await student.follow('Which species?');
    await student.see('Nothing handed in yet');
    const pack = await student.fetch(`/api/v1${exercisePath}/pack`);
    expect(pack.status).toBe(200);
    const files = unzipSync(pack.bytes);
    const text = (name: string) => Buffer.from(files[name] ?? new Uint8Array()).toString('utf8');
    const predict = nearestMean(flowers(text('training.csv')));
    const all = flowers(readFileSync(openData('iris.csv'), 'utf8'));
    predictions = text('held-out.csv')
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => {
        const [id = '', ...features] = line.split(',');
        const numbers = features.map(Number);
        const truth = all.find((flower) => numbers.every((value, i) => flower[i] === value))?.[4] ?? '';
        return { id, label: predict(numbers), truth };
      });
    expect(predictions).toHaveLength(45);
  });

  const fileOf = (label: (p: (typeof predictions)[number], i: number) => string) =>
    `row,prediction\n${predictions.map((p, i) => `${p.id},${label(p, i)}`).join('\n')}\n`;

  it('has a title that names the page, and a link past the bar', async () => {
    expect(await student.page.title()).toBe('Which species? · Modest Sieve');
    await student.page.focus('header a');
    await student.page.keyboard.down('Shift');
    await student.page.keyboard.press('Tab');
    await student.page.keyboard.up('Shift');
    expect(await student.page.evaluate(() => document.activeElement?.textContent)).toBe('Skip to the page');
    await student.page.keyboard.press('Enter');
    expect(await student.page.evaluate(() => document.activeElement?.tagName)).toBe('MAIN');
  });

  it('loads no more script than handing in takes: no desk, and compressed', async () => {
    const sizes = await student.page.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .flatMap((entry) =>
          entry instanceof PerformanceResourceTiming && entry.name.endsWith('.js') ? [entry] : [],
        )
        .map(({ name, encodedBodySize, decodedBodySize }) => ({ name, encodedBodySize, decodedBodySize })),
    );
    expect(sizes.filter(({ name }) => /desk|composer|people-page/.test(name))).toEqual([]);
    const sum = (key: 'encodedBodySize' | 'decodedBodySize') =>
      sizes.reduce((total, one) => total + one[key], 0);
    expect(sum('encodedBodySize')).toBeLessThan(sum('decodedBodySize') / 2);
    expect(sum('encodedBodySize')).toBeLessThan(750_000);
  });

  it('drops a wrong file and is told line and column before anything is sent', async () => {
    await student.drop(
      'Hand in a file',
      fileWith(
        'wrong.csv',
        fileOf((p, i) => (i === 3 ? 'versicolour' : p.label)),
      ),
    );
    await student.see('line 5: “versicolour” for');
    await student.see('the nearest is “versicolor”');
    await student.see('No attempt has been used');
    expect(await student.page.$('::-p-aria([name="Hand in"][role="button"])')).toBeNull();
    await student.press('Choose another');
  });

  it('is told of a file that vanished between choosing and reading', async () => {
    const path = fileWith(
      'gone.csv',
      fileOf((p) => p.label),
    );
    // The page hears of the choice only after the file is gone.
    await student.page.evaluate(() => {
      const hold = (event: Event) => {
        if (!event.isTrusted) return;
        event.stopImmediatePropagation();
        (window as { chosen?: EventTarget | null }).chosen = event.target;
      };
      addEventListener('change', hold, { capture: true, once: true });
    });
    await student.drop('Hand in a file', path);
    await student.page.waitForFunction(() => (window as { chosen?: EventTarget | null }).chosen);
    rmSync(path);
    await student.page.evaluate(() =>
      (window as { chosen?: EventTarget | null }).chosen?.dispatchEvent(
        new Event('change', { bubbles: true }),
      ),
    );
    await student.see('could not be read from your disk. Choose it again.');
    await student.press('Choose another');
  });

  it('drops a fixed file, clicks twice, and gets one receipt without a reload', async () => {
    await student.drop(
      'Hand in a file',
      fileWith(
        'fixed.csv',
        fileOf((p) => p.label),
      ),
    );
    await student.find('[data-precheck=holds]');
    await student.page.evaluate(() => ((window as { stays?: boolean }).stays = true));
    const button = await student.page.waitForSelector('::-p-aria([name="Hand in"][role="button"])');
    await button?.click({ count: 2 });
    await student.find('[data-receipt=checked]');
    // The same file again is taken, but not without a word.
    await student.drop(
      'Hand in a file',
      fileWith(
        'again.csv',
        fileOf((p) => p.label),
      ),
    );
    await student.see('This is the file of your first answer, byte for byte');
    await student.press('Choose another');
    await student.see('On the feedback rows');
    expect(await student.page.evaluate(() => (window as { stays?: boolean }).stays)).toBe(true);
    const { text } = await student.fetch(`/api/v1${exercisePath}/receipts`);
    expect((JSON.parse(text) as { receipts: unknown[] }).receipts).toHaveLength(1);
  });

  it('the instructor sees who handed in what, with the answer grid, and returns the exercise', async () => {
    await instructor.open(`${exercisePath}/submissions`);
    await instructor.see('1 of 1 student, 1 answer');
    await instructor.follow('Sam Student');
    await instructor.see('Answer grid');
    await instructor.see('95 %, Wilson');
    await instructor.press('Return to students');
    await instructor.see('Students then see their marks and final figures');
    await instructor.press('Return to students: yes');
    await instructor.see('returned · due');
  });

  it('the figures agree with a count by hand, and marks are exported', async () => {
    await student.see('On the final rows');
    const ask = async <T>(path: string) => JSON.parse((await student.fetch(path)).text) as T;
    const list = `/api/v1${exercisePath}/receipts`;
    const { receipts } = await ask<{ receipts: { id: string }[] }>(list);
    const receipt = await ask<{
      disclosed: {
        marks: number;
        scored: { final: { score: number; rows: number }; feedback: { score: number; rows: number } };
      } | null;
    }>(`${list}/${receipts[0]?.id}`);
    const final = receipt.disclosed?.scored.final ?? { score: 0, rows: 0 };
    const feedback = receipt.disclosed?.scored.feedback ?? { score: 0, rows: 0 };
    const marks = receipt.disclosed?.marks ?? 0;
    const right = predictions.filter((p) => p.label === p.truth).length;
    expect(final.rows + feedback.rows).toBe(45);
    expect(final.score * final.rows + feedback.score * feedback.rows).toBeCloseTo(right, 9);
    const csv = await instructor.fetch(`/api/v1${exercisePath.replace(/\/exercises.*/, '')}/gradebook.csv`);
    expect(csv.text).toBe(
      `"name","address","section","Which species? (of 10)","total in percent"\n"Sam Student","${emails.student}",,${marks},${Math.round(marks * 1000) / 100}\n`,
    );
    await student.follow('Marks');
    await student.see(String(marks));
  });

  it('nothing was complained of on the way', () => {
    expect([...instructor.complaints, ...student.complaints]).toEqual([]);
  });
});
