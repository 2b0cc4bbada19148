import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { unzipSync } from 'fflate';
import { DEMO_PASSWORD } from './demo-stage.js';
import { fileWith } from './program.js';
import { Someone, startBrowser } from './someone.js';

/** Takes the pictures of docs/screenshots from a running demo: `npm run screenshots [-- name …]`. */

const ADDRESS = process.env.SIEVE_ADDRESS ?? 'http://127.0.0.1:4180';
const FOLDER = fileURLToPath(new URL('../../docs/screenshots', import.meta.url));
const COURSE = 'Learning from hive records';
const EXERCISE = 'Which colonies will survive?';

interface View {
  readonly name: string;
  readonly who: 'ines' | 'tamsin' | 'corin';
  /** From the first page of the course to the view. */
  readonly go: (someone: Someone) => Promise<void>;
  readonly dark?: boolean;
}

/** From the first page of the course to a desk of a data set. */
const desk = async (someone: Someone, dataSet: string, name: string) => {
  for (const link of ['Data', dataSet, name]) await someone.follow(link);
};

const split = async (someone: Someone) => {
  await desk(someone, 'Overwintering', 'Split');
  await someone.see('24 values of apiary, none split');
};

const prepare = async (someone: Someone) => {
  await desk(someone, 'Overwintering', 'Prepare');
  await someone.page.locator('[data-step="4"]').click();
  await someone.see('Step 4, before and after');
};

/** Brings a heading so many pixels below the top of the window. */
const scrollTo = (someone: Someone, heading: string, below: number) =>
  someone.page.$$eval(
    'h2, h3',
    (all, text, room) => {
      const top = all.find((one) => one.textContent.includes(text))?.getBoundingClientRect().top;
      window.scrollBy(0, (top ?? room) - room);
    },
    heading,
    below,
  );

/** The latest run of a family whose line holds a text. */
const trial = async (someone: Someone, dataSet: string, [kind, line]: [string, string], shows: string) => {
  await desk(someone, dataSet, 'Try');
  await someone.see(line);
  await someone.page.$$eval(
    `[data-run="${kind}"]`,
    (rows, text) =>
      rows
        .findLast((row) => row.textContent.includes(text))
        ?.querySelector('button')
        ?.click(),
    line,
  );
  await someone.see(shows);
};

const VIEWS: readonly View[] = [
  {
    name: 'data',
    who: 'ines',
    go: async (someone) => {
      await someone.follow('Data');
      await someone.see('Overwintering');
    },
  },
  {
    name: 'look',
    who: 'ines',
    go: async (someone) => {
      await someone.follow('Data');
      await someone.follow('Overwintering');
      await someone.see('Findings');
      await someone.press('mite_wash');
      await someone.see('1 to 14 of 1,481');
    },
  },
  { name: 'prepare', who: 'ines', go: prepare },
  {
    name: 'correlations',
    who: 'ines',
    go: async (someone) => {
      for (const link of ['Data', 'Pollen grains', 'Correlations']) await someone.follow(link);
      await someone.see('Strongest pairs');
    },
  },
  {
    name: 'folds',
    who: 'ines',
    go: async (someone) => {
      await desk(someone, 'Scale readings', 'Split');
      await someone.follow('Folds: test every row in turn');
      await someone.see('an open bar over the rows');
    },
  },
  {
    name: 'try',
    who: 'ines',
    go: async (someone) => {
      await trial(someone, 'Overwintering', ['tree', 'of 20'], 'By depth');
      await scrollTo(someone, 'By depth', 400);
    },
  },
  {
    name: 'try-tree',
    who: 'ines',
    go: async (someone) => {
      await trial(someone, 'Overwintering', ['tree', 'of 20'], 'By depth');
      await someone.press('Model');
      await someone.see('As rules');
      await scrollTo(someone, 'The tree', 60);
    },
  },
  {
    name: 'try-search',
    who: 'ines',
    go: async (someone) => {
      await trial(someone, 'Overwintering', ['boosting', 'of 40'], 'A search of 40 settings');
      await scrollTo(someone, 'A search of 40 settings', 60);
    },
  },
  {
    name: 'try-residuals',
    who: 'ines',
    go: async (someone) => {
      await trial(someone, 'Honey yield', ['linear', 'coefficients'], 'Coefficients');
      await someone.press('Errors');
      await someone.see('What the residuals say');
      await scrollTo(someone, 'What the residuals say', 60);
    },
  },
  { name: 'split', who: 'ines', go: split },
  { name: 'split-dark', who: 'ines', go: split, dark: true },
  {
    name: 'compose',
    who: 'ines',
    go: async (someone) => {
      await split(someone);
      await someone.follow('Release');
      await someone.follow('Set an exercise');
      await someone.see('Attempts and feedback');
      await someone.fill('Title', 'Which colonies will survive?');
      for (const kind of ['values', 'a split']) await someone.press(`add a question: ${kind}`);
      await someone.press('1 · Hand in your predictions: write in it');
      // Away from the plot, where the pointer would open a tooltip.
      await someone.page.mouse.move(5, 5);
    },
  },
  {
    name: 'exercise',
    who: 'ines',
    go: async (someone) => {
      await someone.follow('Exercises');
      await someone.follow(EXERCISE);
      await someone.see('Audit of the pack');
    },
  },
  {
    name: 'class',
    who: 'ines',
    go: async (someone) => {
      await someone.follow('Exercises');
      await someone.follow('A first try');
      await someone.follow('See what was handed in');
      await someone.follow('Corin Haldane');
      await someone.see('Answer grid');
    },
  },
  {
    name: 'explain',
    who: 'ines',
    go: async (someone) => {
      await someone.follow('Exercises');
      await someone.follow('A first try');
      await someone.follow('See what was handed in');
      await someone.follow('what to explain tomorrow');
      await someone.see('Where the class was wrong most');
      await someone.see('The commonest mistakes');
    },
  },
  {
    name: 'gradebook',
    who: 'ines',
    go: async (someone) => {
      await someone.follow('Gradebook');
      await someone.see('How marks make a total');
    },
  },
  {
    name: 'sheet',
    who: 'tamsin',
    go: async (someone) => {
      await someone.follow(EXERCISE);
      await someone.see('Receipt of your');
      const files = unzipSync((await someone.fetch(`/api/v1${someone.path}/pack`)).bytes);
      const lines = Buffer.from(files['example.csv'] ?? new Uint8Array())
        .toString('utf8')
        .split('\n');
      lines[118] = (lines[118] ?? '').replace(/,.*/, ',1.07');
      lines.splice(57, 1);
      await someone.drop('Hand in a file', fileWith('survival_v3.csv', lines.join('\n')));
      await someone.find('[data-precheck=fails]');
    },
  },
  {
    name: 'receipt',
    who: 'tamsin',
    go: async (someone) => {
      await someone.follow('Marks');
      await someone.follow('A first try');
      await someone.see('On the final rows');
    },
  },
  {
    name: 'model',
    who: 'corin',
    go: async (someone) => {
      await someone.follow('Hand in the model itself');
      await someone.see('It is overfitted');
    },
  },
];

const wanted = process.argv.slice(2);
mkdirSync(FOLDER, { recursive: true });
const browser = await startBrowser();
for (const view of VIEWS) {
  if (wanted.length > 0 && !wanted.includes(view.name)) continue;
  const someone = await Someone.at(browser, ADDRESS);
  const scheme = { name: 'prefers-color-scheme', value: view.dark ? 'dark' : 'light' };
  await someone.page.emulateMediaFeatures([scheme]);
  await someone.signIn(`${view.who}@hollow-lane.example`, DEMO_PASSWORD);
  await someone.follow(COURSE);
  await view.go(someone);
  await someone.page.waitForNetworkIdle({ idleTime: 300, concurrency: 1 });
  await someone.page.screenshot({ path: join(FOLDER, `${view.name}.png`) });
  await someone.page.close();
  console.log(`${view.name}.png`);
}
await browser.close();
