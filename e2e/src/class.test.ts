import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setDemoStage, type DemoStage } from './demo-stage.js';
import { Someone } from './someone.js';

/** A class of 24 as it is reviewed: from the mistake that most made to what one of them reads after the return. */

const EXERCISE = 'Six lessons in figures';
const MISTAKE = 'best fold for the mean';

let stage: DemoStage;
let ines: Someone;
let corin: Someone;

beforeAll(async () => {
  stage = await setDemoStage();
  ({ ines } = stage);
  corin = await Someone.at(stage.browser, stage.program.address);
  await corin.signIn('corin@hollow-lane.example', 'hollow-lane-bees');
  await corin.follow('Learning from hive records');
});
afterAll(() => stage.end());

describe('a class that is reviewed', () => {
  it('shows what most got wrong, whose it is, and what to explain', async () => {
    await ines.follow('Exercises');
    await ines.follow('Which colonies will survive?');
    await ines.follow('See what was handed in');
    await ines.press('Compare the answers');
    await ines.find('table[aria-label="Rows in which Orla Fenn and Perrin Shaw differ"]');
    await ines.follow('Ansel Brodie');
    await ines.find('[role=img][aria-label="ROC curve"]');
    await ines.follow('Exercises');
    await ines.follow(EXERCISE);
    await ines.follow('See what was handed in');
    await ines.see('22 of 24 students');
    await ines.follow('6 · The best fold is not the model');
    await ines.see(MISTAKE);
    await ines.choose('Show', 'slip-best-fold-for-mean');
    await ines.see('Students, 8 of 24');
    await ines.choose('Show', 'everybody');
    await ines.choose('Section', 'Tuesday');
    await ines.see('Students, 12 of 24');
    const names = () =>
      ines.page.$$eval('table[aria-label="Students"] tbody td:first-child', (cells) =>
        cells.map((cell) => cell.innerText),
      );
    const byName = await names();
    await ines.press('student');
    await ines.see('student ↑');
    await ines.press('student');
    await ines.see('student ↓');
    expect(await names()).toEqual([...byName].reverse());
    await ines.follow('what to explain tomorrow');
    await ines.see('Report the mean over all folds with its standard error.');
    const page = await ines.page.$eval('main', (main) => main.innerText);
    // Neither names nor figures of somebody's answer while it is open.
    for (const secret of ['Corin', 'Haldane', 'In one answer of this class'])
      expect(page).not.toContain(secret);
    await ines.follow('the class');
  });

  it('is given marks by hand, comments and a mistake by name, and returned', async () => {
    await ines.follow('6 · The best fold is not the model');
    await ines.follow('Corin Haldane');
    await ines.see('Adjust the marks');
    await ines.page.keyboard.press('m');
    await ines.fill('reason of the adjustment', 'The gap was explained well.');
    await ines.press('Give these marks');
    await ines.see('given by Ines Okafor');
    await ines.see('Comment on this answer');
    await ines.page.keyboard.press('c');
    await ines.fill('comment', 'Which of the five folds was it?');
    await ines.press('Save the comment');
    await ines.see('Ines Okafor wrote on this answer');
    await ines.see('Comment on all answers of this student');
    await ines.page.keyboard.press('a');
    await ines.fill('comment', 'Steady work this month.');
    await ines.press('Save the comment');
    await ines.see('Ines Okafor wrote on all answers of this student');
    await ines.press('Name a mistake');
    await ines.choose('mistake', 'pooled-for-mean');
    await ines.press('Name this mistake');
    await ines.see('named by Ines Okafor');
    await ines.press(`dismiss: ${MISTAKE} in mean over the folds`);
    await ines.see('dismissed by Ines Okafor');
    await ines.see('was dismissed by staff');
    await ines.press(`take back the dismissal: ${MISTAKE} in mean over the folds`);
    await ines.seeGone('dismissed by Ines Okafor');
    await ines.press('Return to students');
    await ines.press('Return to students: yes');
    await ines.see('returned · due');
  });

  it('reads the mistake, what to do about it, and the comment', async () => {
    await corin.follow('Marks');
    await corin.follow(EXERCISE);
    await corin.see('Report the mean over all folds with its standard error.');
    await corin.see('Which of the five folds was it?');
    await corin.find('[data-slip=pooled-for-mean]');
    await corin.see('Steady work this month.');
    await corin.see('Marks given by hand: The gap was explained well.');
  });

  it('has totals that staff and student read in the same words, and that follow what is excused', async () => {
    const total = async (someone: Someone) =>
      someone.page.$eval(
        '[aria-label="How the total came about"]',
        (steps) => (steps as HTMLElement).innerText,
      );
    await ines.follow('Gradebook');
    await ines.follow('Corin Haldane');
    await ines.see('in all');
    const said = await total(ines);
    expect(said).toContain('Exercises: ');
    expect(said).toMatch(/Total: \(70 × .* \+ 30 × .*\) \/ 100 = /);
    await corin.follow('Marks');
    await corin.see('in all');
    expect(await total(corin)).toBe(said);
    await ines.press('excuse: A first try');
    await ines.see('Excused, and not counted: A first try.');
    await corin.see('Excused, and not counted: A first try.');
    const csv = await ines.fetch(`/api/v1${stage.course}/gradebook.csv`);
    expect(csv.text.split('\n')).toHaveLength(26);
    expect(csv.text).toMatch(/"Corin Haldane",[^\n]*,"excused",/);
  });
});
