import { execFile } from 'node:child_process';
import { dirname } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { unzipSync } from 'fflate';
import { setDemoStage, type DemoStage } from './demo-stage.js';
import { fileWith } from './program.js';
import { Someone } from './someone.js';

/** People of the demo course: how they come in, and what their programs hand in. */

let stage: DemoStage;
let ines: Someone;
let mirela: Someone;
let course: string;
let exercise: string;

beforeAll(async () => {
  stage = await setDemoStage();
  ({ ines, mirela, course, exercise } = stage);
});
afterAll(() => stage.end());

describe('what an instructor does about people', () => {
  /** The address within the program of the link that a page shows once. */
  const linkOn = async ({ page }: Someone, label: string): Promise<string> => {
    const line = await page.waitForSelector(`[data-line="${label}"]`);
    return new URL((await line?.evaluate((node) => node.textContent)) ?? '').pathname;
  };

  it('imports a class list, after it was shown line by line', async () => {
    await ines.open(`${course}/people`);
    await ines.drop(
      'Choose a class list',
      fileWith(
        'class.csv',
        'name,address,role\nWren Ackerley,wren@hollow-lane.example,assistant\nNo One,nowhere,\n',
      ),
    );
    await ines.see('“nowhere” is not an address');
    await ines.press('Leave it');
    await ines.drop(
      'Choose a class list',
      fileWith('class.csv', 'name,address,role\nWilma Fenwick,wilma@hollow-lane.example,\n'),
    );
    await ines.see('invited');
    await ines.press('Invite 1 person');
    await ines.see('1 person is invited.');
    await ines.see('Wilma Fenwick wilma@hollow-lane.example, as student, until');
  });

  it('makes an invitation, by which the person sets a password and joins', async () => {
    await ines.fill('Name', 'Wren Ackerley');
    await ines.fill('Address', 'wren@hollow-lane.example');
    await ines.choose('As', 'assistant');
    await ines.press('Make an invitation');
    const wren = await Someone.at(stage.browser, stage.program.address);
    await wren.open(await linkOn(ines, 'link of the invitation'));
    await wren.see(
      'Ines Okafor invites Wren Ackerley (wren@hollow-lane.example) to this course as assistant.',
    );
    expect(await wren.barriers()).toEqual([]);
    await wren.fill('Choose a password', 'ten letters and more');
    await wren.press('Make my account and join');
    await wren.follow('Learning from hive records');
    // An assistant sees what was handed in, and neither data nor people.
    await wren.follow('Which colonies will survive?');
    await wren.follow('See what was handed in');
    await wren.page.locator('table[aria-label="Students"] tbody tr:last-child a').click();
    await wren.see('Answer grid');
    expect(await wren.page.$('::-p-aria([name="Return to students"])')).toBeNull();
    await wren.open(`${course}/data`);
    await wren.see('There is nothing here for you');
    expect(wren.complaints).toEqual([]);
  });

  it('makes a one-time link, by which a person of this course alone sets a new password', async () => {
    await ines.open(`${course}/people`);
    await ines.press('Wren Ackerley');
    await ines.press('Make a link for a new password');
    const wren = await Someone.at(stage.browser, stage.program.address);
    await wren.open(await linkOn(ines, 'link for a new password'));
    await wren.see('For Wren Ackerley');
    expect(await wren.barriers()).toEqual([]);
    await wren.fill('Password', 'eleven letters and more');
    await wren.press('Set it and sign in');
    await wren.see('Learning from hive records');
    await wren.open('/you');
    await wren.see('made a link by which your password can be set');
    expect(wren.complaints).toEqual([]);
  });

  it('records in the activity log what was done', async () => {
    await ines.open(`${course}/people/trail`);
    await ines.see('made a link for a new password of Wren Ackerley');
    await ines.see('imported the class list class.csv');
  });
});

describe('a token', () => {
  it('is made on one’s own page, and the line on the sheet hands in a file with it', async () => {
    await mirela.open('/you');
    await mirela.fill('Name of a new token', 'notebook');
    await mirela.press('Make the token');
    const token = await mirela.page
      .waitForSelector('[data-line="token"]')
      .then((node) => node?.evaluate((line) => line.textContent));
    await mirela.open(exercise);
    await mirela.press('Hand in from a program');
    const line = await mirela.page
      .waitForSelector('[data-line="line for a terminal, question 1"]')
      .then((node) => node?.evaluate((text) => text.textContent));
    const { bytes } = await mirela.fetch(`/api/v1${exercise}/pack`);
    const file = fileWith('answer.csv', unzipSync(bytes)['example.csv'] ?? '');
    const { stdout } = await promisify(execFile)('sh', ['-c', `${line ?? ''} --silent`], {
      cwd: dirname(file),
      env: { ...process.env, SIEVE_TOKEN: token ?? '' },
    });
    expect(JSON.parse(stdout)).toMatchObject({ outcome: 'checked', fileName: 'answer.csv' });
  });
});

it('nothing was complained of on the way', () => {
  expect([...ines.complaints, ...mirela.complaints]).toEqual([]);
});
