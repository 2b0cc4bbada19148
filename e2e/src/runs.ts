import { randomUUID } from 'node:crypto';
import { fileWith } from './program.js';
import type { Someone } from './someone.js';

/** Colonies that are lost where they are light, with noise in one of four that nothing explains. */
const COLONIES = `colony,weight,mites,forage,lost\n${Array.from({ length: 900 }, (_, i) => {
  const weight = (i * 37) % 101;
  const noisy = (i * 53 + (i % 11)) % 4 < 1;
  return `c${i},${weight},${(i * 29) % 83},${['heather', 'lime', 'rape'][i % 3]},${weight < 40 !== noisy ? 'yes' : 'no'}`;
}).join('\n')}\n`;

/** The table of runs at Try, as somebody sees it: the family and the cells of each. */
export const runsOf = (someone: Someone) =>
  someone.page.$$eval('[data-run]', (rows) =>
    rows.map((row) => ({
      kind: row.getAttribute('data-run'),
      cells: Array.from(row.querySelectorAll('td'), (cell) => cell.innerText.trim()),
    })),
  );

/** An instructor of a course with the colonies, who looks at them. @returns the path of the data set */
export async function coloniesAtLook(ada: Someone, course: string): Promise<string> {
  await ada.signUp('Ada Instructor', `${randomUUID()}@test.example`);
  await ada.fill('Name of the course', course);
  await ada.press('Make the course');
  await ada.drop('Import a table', fileWith('colonies.csv', COLONIES));
  await ada.follow('Colonies');
  await ada.see('900 rows as they came');
  return ada.path.replace('/look', '');
}

/** Marks what the colonies are to be predicted by, and splits them. */
export async function splitColonies(ada: Someone, desk: string): Promise<void> {
  await ada.open(`${desk}/look`);
  await ada.choose('target', 'lost');
  await ada.find('select[aria-label="positive class"]');
  await ada.choose('identifier', 'colony');
  await ada.press('Save this');
  await ada.see('target lost');
  await ada.open(`${desk}/split`);
  await ada.see('What follows from it');
  await ada.press('Save this split');
  await ada.see('Saved. Set an exercise on it');
}

/** Saves folds from where they are made, and goes to Try. */
export async function saveFolds(ada: Someone): Promise<void> {
  await ada.see('Fold by fold');
  await ada.press('Save these folds');
  await ada.see('Saved folds');
  await ada.follow('Try');
  await ada.see('Nothing was tried over these folds');
}
