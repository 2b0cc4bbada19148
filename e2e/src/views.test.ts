import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setDemoStage, type DemoStage } from './demo-stage.js';
import { startProgram } from './program.js';
import { Someone } from './someone.js';

/** Every page of the program: without barriers, narrow and wide, by day and by night; and with the server away. */

let stage: DemoStage;
let ines: Someone;
let tamsin: Someone;
let nobody: Someone;
let composer: string;
let figures: string;
let splitting: string;
let link: string;
let tree: string;
let course: string;
let dataSet: string;
let exercise: string;
let submission: string;

beforeAll(async () => {
  stage = await setDemoStage();
  ({ ines, tamsin, course, dataSet, exercise, submission } = stage);
  nobody = await Someone.at(stage.browser, stage.program.address);
  const id = dataSet.split('/').at(-1) ?? '';
  const { text } = await ines.fetch(`/api/v1${course}/data-sets/${id}`);
  const [split] = (JSON.parse(text) as { splits: { id: string }[] }).splits;
  const { text: tried } = await ines.fetch(`/api/v1${course}/data-sets/${id}/trials`);
  const trials = JSON.parse(tried) as { id: string; plan: { model: { kind: string } } }[];
  tree = trials.find(({ plan }) => plan.model.kind === 'tree')?.id ?? '';
  const { text: listed } = await ines.fetch(`/api/v1${course}/exercises`);
  const exercises = JSON.parse(listed) as { id: string; title: string }[];
  const titled = (title: string) =>
    `${course}/exercises/${exercises.find((one) => one.title === title)?.id ?? ''}`;
  figures = titled('Reading a model’s figures');
  splitting = titled('A split you can defend');
  composer = `${course}/exercises/new?dataSet=${id}&split=${split?.id ?? ''}`;
  link = await ines.page.evaluate(async (people) => {
    const members = (await (await fetch(people)).json()) as { id: string; name: string }[];
    const mirela = members.find((member) => member.name === 'Mirela Voss')?.id ?? '';
    const made = await fetch(`${people}/${mirela}/password-link`, { method: 'POST' });
    return ((await made.json()) as { path: string }).path;
  }, `/api/v1${course}/people`);
});
afterAll(() => stage.end());

describe('every view', () => {
  const views: [string, () => Someone, () => string, string][] = [
    ['courses', () => ines, () => '/', 'Make a course'],
    ['one’s own page', () => ines, () => '/you', 'Sign out everywhere'],
    ['data', () => ines, () => `${course}/data`, 'Overwintering'],
    ['the desk Look', () => ines, () => `${dataSet}/look`, '1 to 14 of'],
    ['two columns together', () => ines, () => `${dataSet}/look/together`, 'have both'],
    ['correlations', () => ines, () => `${dataSet}/look/correlations`, 'Strongest pairs'],
    ['the desk Prepare', () => ines, () => `${dataSet}/prepare?step=4`, 'Step 4, before and after'],
    ['the desk Split', () => ines, () => `${dataSet}/split`, 'What follows from it'],
    [
      'two plans beside each other',
      () => ines,
      () => `${dataSet}/split?beside=${encodeURIComponent('{"kind":"every","values":{"every":5}}')}`,
      'the other plan',
    ],
    ['folds', () => ines, () => `${dataSet}/split/folds`, 'Fold by fold'],
    ['the desk Try', () => ines, () => `${dataSet}/try`, 'What the run shows'],
    ['a tree at Try', () => ines, () => `${dataSet}/try?view=model&run=${tree}`, 'As rules'],
    [
      'errors at Try',
      () => ines,
      () => `${dataSet}/try?view=errors&run=${tree}`,
      'The rows with the largest errors',
    ],
    ['the desk Release', () => ines, () => `${dataSet}/release`, 'Saved splits'],
    ['exercises', () => ines, () => `${course}/exercises`, 'Which colonies'],
    ['the composer', () => ines, () => composer, 'Attempts and feedback'],
    ['a sheet with drawn figures and statements', () => tamsin, () => figures, 'What may be said'],
    ['a sheet with a split', () => tamsin, () => splitting, 'The split you used'],
    ['a released exercise', () => ines, () => exercise, 'Audit of the pack'],
    ['submissions', () => ines, () => `${exercise}/submissions`, 'Return to students'],
    ['a submission that is opened', () => ines, () => `${exercise}/submissions/${submission}`, 'Answer grid'],
    ['what to explain', () => ines, () => `${exercise}/explain`, 'The commonest mistakes'],
    ['gradebook', () => ines, () => `${course}/gradebook`, 'How marks make a total'],
    ['people', () => ines, () => `${course}/people`, 'join with the code'],
    ['the trail', () => ines, () => `${course}/people/trail`, 'excused Tobias Crane'],
    ['jobs', () => ines, () => `${course}/jobs`, 'check a file'],
    ['the sign-in', () => nobody, () => '/', 'I am new here'],
    ['the page of a one-time link', () => nobody, () => link, 'A new password'],
    ['an address that leads nowhere', () => tamsin, () => `${course}/nowhere`, 'There is nothing here'],
    ['a student’s exercises', () => tamsin, () => `${course}/exercises`, 'Which colonies'],
    ['a student’s marks', () => tamsin, () => `${course}/marks`, 'A first try'],
    ['the sheet with a receipt', () => tamsin, () => exercise, 'Receipt of your'],
  ];
  it.each(views)(
    '%s has no barrier that axe finds, wide and light, narrow and dark',
    async (_, who, path, text) => {
      const someone = who();
      const look = async (width: number, value: string) => {
        await someone.page.setViewport({ width, height: 800 });
        await someone.page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value }]);
      };
      await look(1280, 'light');
      await someone.open(path());
      await someone.see(text);
      expect(await someone.page.title()).toMatch(/^\S.* · Modest Sieve$/);
      expect(await someone.page.$$eval('h1', (headings) => headings.length)).toBe(1);
      expect(await someone.barriers()).toEqual([]);
      await look(390, 'dark');
      await someone.find('html.dark');
      await someone.see(text);
      // Wide tables scroll by themselves; the page does not.
      expect(await someone.page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
      expect(await someone.barriers()).toEqual([]);
    },
  );

  it('nothing was complained of on the way', () => {
    expect([...ines.complaints, ...tamsin.complaints]).toEqual([]);
  });
});

describe('the focus', () => {
  const focused = () =>
    ines.page.evaluate(() => {
      const { activeElement: element } = document;
      return [element?.tagName ?? '', (element as HTMLElement | null)?.innerText ?? ''];
    });

  it('goes to the title of a page that is gone to, and not of one that is loaded', async () => {
    await ines.page.setViewport({ width: 1280, height: 800 });
    await ines.open(`${course}/exercises`);
    await ines.see('Which colonies');
    expect((await focused())[0]).toBe('BODY');
    await ines.follow('Gradebook');
    await ines.see('How marks make a total');
    expect(await focused()).toEqual(['H1', 'Gradebook']);
  });

  it('stays on a button that has acted', async () => {
    await ines.open(`${dataSet}/split`);
    await ines.see('What follows from it');
    await ines.press('Another seed');
    await ines.see('Undo');
    expect(await focused()).toEqual(['BUTTON', 'Another seed']);
  });

  it('goes to what is asked before it is done, and back', async () => {
    await ines.open(`${exercise}/submissions`);
    await ines.press('Return to students');
    await ines.see('Students then see their marks');
    expect(await focused()).toEqual(['P', expect.stringMatching(/^Students then see/)]);
    await ines.press('Leave it');
    expect(await focused()).toEqual(['BUTTON', 'Return to students']);
  });

  it('goes to the submission that is opened, and stays near a button that went away', async () => {
    await ines.page.$eval('table[aria-label="Students"] a', (link) => (link as HTMLElement).click());
    await ines.see('Adjust the marks');
    expect((await focused())[0]).toBe('H2');
    await ines.press('Adjust the marks');
    expect((await focused())[1]).toContain('of 10 marks, because');
    await ines.press('Leave them');
    const [tag, around] = await focused();
    expect([tag, around]).toEqual(['DIV', 'Adjust the marks']);
  });
});

describe('the list of a class', () => {
  it('is narrowed to some, which the address keeps, also for a submission that is opened', async () => {
    await ines.open(`${exercise}/submissions`);
    await ines.see('with marks answered this question');
    await ines.see('Each colony must appear exactly once');
    await ines.choose('Show', 'nothing');
    await ines.see('Students, 2 of 24');
    await ines.page.reload();
    await ines.see('Students, 2 of 24');
    const students = () =>
      ines.page.$$eval('table[aria-label="Students"] tbody tr', (rows) => rows.map((row) => row.innerText));
    expect((await students()).join()).toMatch(/^Mirela Voss[^]*nothing yet/);
    await ines.choose('Show', 'answered');
    await ines.see('Students, 22 of 24');
    await ines.page.$eval('table[aria-label="Students"] tbody tr:last-child a', (link) =>
      (link as HTMLElement).click(),
    );
    await ines.see('Adjust the marks');
    await ines.see('Students, 22 of 24');
    await ines.choose('Show', 'everybody');
    await ines.seeGone('Students, 22 of 24');
    expect(await students()).toHaveLength(24);
  });
});

describe('a server that is away', () => {
  it('is said to be so, and the page goes on by itself when it is back', async () => {
    await tamsin.page.setViewport({ width: 1280, height: 800 });
    await tamsin.open(exercise);
    await tamsin.see('Receipt of your first answer to question 2');
    const { port } = new URL(stage.program.address);
    await stage.program.stop();
    await tamsin.page.evaluate(() => window.dispatchEvent(new Event('focus')));
    await tamsin.see('The server cannot be reached.');
    // What was fetched stays to be read.
    await tamsin.see('Receipt of your first answer to question 2');
    stage.program = await startProgram(Number(port));
    await tamsin.page.waitForFunction(() => !document.body.innerText.includes('cannot be reached'));
  });
});
