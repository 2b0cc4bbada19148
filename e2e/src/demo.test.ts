import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { unzipSync } from 'fflate';
import { setDemoStage, type DemoStage } from './demo-stage.js';
import { fileWith } from './program.js';
import { Someone } from './someone.js';

/** The demo course as its instructor and its students see it. */

let stage: DemoStage;
let ines: Someone;
let mirela: Someone;
let tamsin: Someone;
let course: string;
let exercise: string;
let submission: string;

beforeAll(async () => {
  stage = await setDemoStage();
  ({ ines, mirela, tamsin, course, exercise, submission } = stage);
});
afterAll(() => stage.end());

describe('the demo', () => {
  it('is loaded in the order of an instructor: nothing is out of date, failed or waiting', async () => {
    const ask = async <T>(path: string) =>
      JSON.parse((await ines.fetch(`/api/v1${course}${path}`)).text) as T;
    const exercises = await ask<{ title: string; state: string; stale: boolean }[]>('/exercises');
    expect(exercises.length).toBeGreaterThan(5);
    expect(
      exercises.filter(({ stale, state }) => stale || !['released', 'returned'].includes(state)),
    ).toEqual([]);
    // Trials that are no reference are still computed when the demo can be used.
    let jobs = await ask<{ state: string }[]>('/jobs');
    for (
      let asked = 0;
      asked < 100 && jobs.some(({ state }) => ['waiting', 'running', 'trying again'].includes(state));
      asked++
    ) {
      await new Promise((resolve) => setTimeout(resolve, 1000));
      jobs = await ask('/jobs');
    }
    expect(jobs.filter(({ state }) => state !== 'done')).toEqual([]);
  });

  it('shows the overwintering table on its desks', async () => {
    await ines.follow('Data');
    await ines.follow('Overwintering');
    await ines.see('1,512 rows as they came');
    await ines.see('22 with a missing cell, 9 repeated');
    await ines.follow('Split');
    await ines.see('24 values of apiary, none split');
    await ines.choose('group by', '');
    await ines.see('Rows of one apiary are on both sides');
    await ines.page.reload();
    await ines.see('Rows of one apiary are on both sides');
  });

  it('says what is wrong with a plan beside it', async () => {
    await ines.fill('seed', '1.5');
    await ines.see('a whole number is needed');
    await ines.fill('seed', '77');
    await ines.page.waitForFunction(() => decodeURIComponent(location.search).includes('"seed":77'));
  });

  it('hands a pack to a student whose example file passes the checks, by keyboard alone', async () => {
    await mirela.follow('Which colonies will survive?');
    const { bytes } = await mirela.fetch(`/api/v1${exercise}/pack`);
    const example = unzipSync(bytes)['example.csv'] ?? new Uint8Array();
    await mirela.drop('Hand in a file', fileWith('example.csv', example));
    await mirela.find('[data-precheck=holds]');
    await mirela.page.focus('::-p-aria([name="Hand in"][role="button"])');
    await mirela.page.keyboard.press('Enter');
    await mirela.find('[data-receipt=checked]');
    // All probabilities are equal: the area is 0.5, whatever the answers are.
    await mirela.see('about 0.5');
  });

  it('refuses a file of 60 MB in the browser, unread and unsent', async () => {
    await mirela.drop('Hand in a file', fileWith('large.csv', new Uint8Array(60 * 1024 * 1024)));
    await mirela.see('large.csv is too large to be an answer to this question.');
    await mirela.press('Choose another');
  });

  it.each([
    ['empty.csv', ''],
    ['page.csv', '<!doctype html><p>Sign in'],
    ['open.csv', 'colony,probability\nHL-0001,"0.5\n'],
    ['head.csv', 'colony,probability\n'],
  ])('says what is wrong with %s before it is sent', async (name, contents) => {
    await mirela.drop('Hand in a file', fileWith(name, contents));
    await mirela.find('[data-precheck=fails]');
    await mirela.press('Choose another');
  });

  it('marks names that are chosen by a key that is computed, in part where some are right', async () => {
    await mirela.open(`${course}/exercises`);
    await mirela.follow('Six lessons in figures');
    await mirela.see('What the lasso leaves');
    await mirela.fill('coefficients that are not 0', '3');
    for (const column of ['frames_of_bees', 'mite_wash', 'feeder'])
      await mirela.page.click(`::-p-aria([name="${column}"][role="checkbox"])`);
    await mirela.page.$$eval('button', (buttons) => {
      const own = buttons.filter((button) => button.textContent === 'Hand in');
      own[2]?.click();
    });
    await mirela.find('[data-receipt=checked]');
    // Two columns of three are right and one is wrong: half of the marks for the names, none for their number.
    await mirela.see('0.75 of 3 marks');
    await mirela.see('columns that stay is not right');
    await mirela.follow('Exercises');
    await mirela.follow('Which colonies will survive?');
  });

  it('answers a student who asks for what is not theirs with one and the same page', async () => {
    for (const path of [
      `${course}/data`,
      `${exercise}/submissions`,
      `${exercise}/submissions/${submission}`,
      `${course}/people`,
      `${course}/gradebook`,
    ]) {
      await mirela.open(path);
      await mirela.see('There is nothing here for you');
    }
    for (const path of [
      `/receipts/${submission}`,
      `/submissions/${submission}`,
      `/submissions/${submission}/file`,
      '/class',
      '/key',
    ]) {
      expect((await mirela.fetch(`/api/v1${exercise}${path}`)).status).toBe(404);
    }
  });

  it('says so when the deadline passes while the page is open', async () => {
    const detail = JSON.parse((await ines.fetch(`/api/v1${exercise}`)).text) as Record<string, unknown>;
    const settings = Object.fromEntries(
      ['splitId', 'brief', 'attempts', 'counts', 'feedback'].map((key) => [key, detail[key]]),
    );
    const questions = (detail.composed as unknown[]).slice(0, 1);
    const id = await ines.page.evaluate(
      async (url, body) => {
        const options = (json: object) => ({
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(json),
        });
        const made = (await (await fetch(url, options(body))).json()) as { id: string };
        // Its final rows decided the marks of an exercise that was returned.
        await fetch(`${url}/${made.id}/release`, options({ reason: 'It counts for nothing.' }));
        return made.id;
      },
      `/api/v1${course}/exercises`,
      {
        ...settings,
        questions,
        title: 'A short one',
        deadline: new Date(Date.now() + 3_600_000).toISOString(),
      },
    );
    await mirela.open(`${course}/exercises`);
    await mirela.follow('A short one');
    const { bytes } = await mirela.fetch(`/api/v1${course}/exercises/${id}/pack`);
    await mirela.drop('Hand in a file', fileWith('late.csv', unzipSync(bytes)['example.csv'] ?? ''));
    await mirela.find('[data-precheck=holds]');
    const deadline = new Date(Date.now() + 10_000).toISOString();
    const status = await ines.page.evaluate(
      async (base, at, end) => {
        const people = (await (await fetch(`${base}/people`)).json()) as { id: string; name: string }[];
        const person = people.find(({ name }) => name === 'Mirela Voss')?.id ?? '';
        const reply = await fetch(`${base}/exercises/${at}/deadlines/${person}`, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ deadline: end }),
        });
        return reply.status;
      },
      `/api/v1${course}`,
      id,
      deadline,
    );
    expect(status).toBeLessThan(300);
    await mirela.page.waitForFunction((end) => Date.now() > Date.parse(end) + 200, {}, deadline);
    await mirela.press('Hand in');
    await mirela.see('The deadline has passed. Your answer was not taken.');
  });

  it('never sends a student a value for each held-out row, but their identifiers', async () => {
    await mirela.open(exercise);
    await mirela.find('[data-receipt=checked]');
    const lists: unknown[][] = [];
    const walk = (value: unknown): void => {
      if (Array.isArray(value)) {
        if (value.length >= 20) lists.push(value);
        value.forEach(walk);
      } else if (typeof value === 'object' && value !== null) Object.values(value).forEach(walk);
    };
    const answers = mirela.received.filter(({ text }) => text.startsWith('{') || text.startsWith('['));
    expect(answers.length).toBeGreaterThan(10);
    for (const { text } of answers) walk(JSON.parse(text));
    expect(lists.length).toBeGreaterThan(0);
    for (const list of lists) for (const item of list) expect(item).toMatch(/^HL-\d{4}$/);
    for (const { text } of answers) expect(text).not.toMatch(/"residuals":\{|"grid":\{|"final":\{|"seed"/);
  });

  it('hands out packs without the target of a held-out row', async () => {
    const files = unzipSync((await mirela.fetch(`/api/v1${exercise}/pack`)).bytes);
    const heldout = Buffer.from(files['held-out.csv'] ?? new Uint8Array()).toString('utf8');
    expect(heldout.split('\n')[0]).toBe(
      'colony,apiary,inspected,frames_of_bees,brood_frames,stores_kg,mite_wash,treatment,feeder,hive_type,altitude_m',
    );
    const ids = heldout
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => line.split(',')[0] ?? '');
    expect(ids).not.toEqual([...ids].sort());
    for (const name of ['training.csv', 'validation.csv']) {
      const text = Buffer.from(files[name] ?? new Uint8Array()).toString('utf8');
      for (const id of ids) expect(text).not.toContain(id);
    }
  });
});

describe('a returned exercise', () => {
  it('shows a student the final figures, the interval, the answer grid and where the score is', async () => {
    await tamsin.open(`${course}/marks`);
    await tamsin.follow('A first try');
    await tamsin.see('On the final rows');
    // Three apiaries are too few to say how far the accuracy would stray in others.
    await tamsin.see('3 groups are too few to judge by: at least 10 are needed');
    await tamsin.find('[aria-label^="Answer grid:"]');
    await tamsin.find('[aria-label*="at the score"]');
    // Figures beside the first, with their own marks; those of single hive types are for staff.
    await tamsin.see('specificity\n');
    await tamsin.see('accuracy in the worst subgroup by hive_type');
    await tamsin.see('Accuracy earned ');
  });
});

it('nothing was complained of on the way', () => {
  expect([...ines.complaints, ...mirela.complaints, ...tamsin.complaints]).toEqual([]);
});
