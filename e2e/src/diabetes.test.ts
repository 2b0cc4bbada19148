import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { unzipSync } from 'fflate';
import { fileWith, openData, setStage, type Stage } from './program.js';
import type { Someone } from './someone.js';

/** Numbers predicted, on the diabetes data of Efron, Hastie, Johnstone and Tibshirani (2004), as scikit-learn ships them. */

let stage: Stage;
let instructor: Someone;
let student: Someone;

beforeAll(async () => {
  stage = await setStage();
  ({ instructor, student } = stage);
});
afterAll(() => stage.end());

const recordsOf = (csv: string) => {
  const [header = '', ...lines] = csv.trim().split('\n');
  const names = header.split(',');
  return lines.map((line) => {
    const cells = line.split(',');
    return (name: string) => Number(cells[names.indexOf(name)]);
  });
};

let exercise = '';

describe('diabetes, predicted as numbers', () => {
  it('an instructor releases an exercise marked by the root mean squared error', async () => {
    await instructor.signUp('Ada Instructor', `${randomUUID()}@test.example`);
    await instructor.fill('Name of the course', 'Progression');
    await instructor.press('Make the course');
    await instructor.drop('Import a table', openData('diabetes.csv'));
    await instructor.follow('Diabetes');
    await instructor.see('442 rows as they came');
    await instructor.choose('target', 'target');
    await instructor.page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('select[aria-label=task]')?.value === 'regression',
    );
    await instructor.press('Save this');
    await instructor.follow('Split the rows');
    await instructor.see('held-out 88');
    await instructor.press('Save this split');
    await instructor.follow('Set an exercise on it');
    await instructor.choose('metric', 'rmse');
    await instructor.press('Release');
    await instructor.see('Audit of the pack');
    exercise = instructor.path;
  });

  it('a student’s numbers are checked; a decimal comma is named where it is', async () => {
    const code = await instructor.joinCode();
    await student.signUp('Sam Student', `${randomUUID()}@test.example`);
    await student.fill('Code', code);
    await student.press('Join');
    await student.follow('Predict target');
    const files = unzipSync((await student.fetch(`/api/v1${exercise}/pack`)).bytes);
    const text = (name: string) => Buffer.from(files[name] ?? new Uint8Array()).toString('utf8');
    // A line through the training rows on one feature, by least squares.
    const training = recordsOf(text('training.csv'));
    const mean = (name: string) => training.reduce((sum, row) => sum + row(name), 0) / training.length;
    const [bmi, target] = [mean('bmi'), mean('target')];
    const slope =
      training.reduce((sum, row) => sum + (row('bmi') - bmi) * (row('target') - target), 0) /
      training.reduce((sum, row) => sum + (row('bmi') - bmi) ** 2, 0);
    const heldout = recordsOf(text('held-out.csv'));
    const lines = heldout.map((row) => `${row('row')},${target + slope * (row('bmi') - bmi)}`);
    await student.drop(
      'Hand in a file',
      fileWith(
        'comma.csv',
        `row;prediction\n${lines.map((line) => line.replace(',', ';').replace('.', ',')).join('\n')}\n`,
      ),
    );
    await student.see('has a decimal comma');
    await student.press('Choose another');
    await student.drop('Hand in a file', fileWith('line.csv', `row,prediction\n${lines.join('\n')}\n`));
    await student.find('[data-precheck=holds]');
    await student.press('Hand in');
    await student.find('[data-receipt=checked]');
    await student.see('Scores and marks are shown when the exercise is returned.');

    // The answers by their features, which are different for every row of this table.
    const all = recordsOf(readFileSync(openData('diabetes.csv'), 'utf8'));
    const features = ['age', 'bmi', 'bp', 's1', 's2', 's3', 's4', 's5', 's6'];
    const squares = heldout.map((row) => {
      const truth = all.filter((other) => features.every((name) => other(name) === row(name)));
      expect(truth).toHaveLength(1);
      return ((truth[0]?.('target') ?? NaN) - (target + slope * (row('bmi') - bmi))) ** 2;
    });
    await instructor.open(`${exercise}/submissions`);
    await instructor.follow('Sam Student');
    await instructor.see('Root mean squared error');
    // One half of the held-out rows is for feedback, the other for the marks: together they are all of them.
    const figures = [
      ...(await instructor.text()).matchAll(/(?:Root mean squared error|44 feedback rows:)\s+([\d.]+)/g),
    ];
    expect(figures).toHaveLength(2);
    const halves = figures.map(([, figure]) => Number(figure) ** 2);
    const meanSquare = squares.reduce((a, b) => a + b, 0) / squares.length;
    expect(Math.abs((halves[0] ?? 0) / 2 + (halves[1] ?? 0) / 2 - meanSquare) / meanSquare).toBeLessThan(
      0.001,
    );
    await instructor.see('95 %, bootstrap');
  });

  it('the instructor sees the residuals, and the form without barriers', async () => {
    await instructor.find('[aria-label="Residuals of 44 rows against the prediction"]');
    expect(await instructor.barriers()).toEqual([]);
  });

  it('a draft is deleted only after its consequence was said', async () => {
    await instructor.open(`${exercise.replace(/\/exercises.*/, '')}/data`);
    await instructor.follow('Diabetes');
    await instructor.follow('Release');
    await instructor.follow('Set an exercise');
    await instructor.fill('Title', 'Never released');
    expect(await instructor.barriers()).toEqual([]);
    await instructor.press('Save the draft');
    await instructor.press('Delete the draft');
    await instructor.see('The draft is gone then');
    await instructor.press('Delete the draft: yes');
    await instructor.see('Predict target');
    await instructor.seeGone('Never released');
  });

  it('nothing was complained of on the way', () => {
    expect([...instructor.complaints, ...student.complaints]).toEqual([]);
  });
});
