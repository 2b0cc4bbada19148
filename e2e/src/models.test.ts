import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fileWith, setStage, type Stage } from './program.js';
import type { Someone } from './someone.js';

/** An exercise that asks for a model, from composing to the returned receipt; models are saved by the command line. */

let stage: Stage;
let ada: Someone;
let sam: Someone;
let exercise = '';
let training = '';
let joinCode = '';

const SIEVE = fileURLToPath(new URL('../../cli/dist/main.js', import.meta.url));

/** Colonies that are lost where they are light and full of mites, one of seven the other way round. */
const colonies = `colony,weight,mites,forage,lost\n${Array.from({ length: 600 }, (_, i) => {
  const [weight, mites] = [(i * 37) % 101, (i * 29) % 83];
  const isLost = mites - weight > -20 !== (i % 7 === 0);
  return `c${i},${weight},${mites},${['heather', 'lime', 'rape'][i % 3]},${isLost ? 'yes' : 'no'}`;
}).join('\n')}\n`;

/** A model of the pack's training rows, as the command line saves it. */
function saved(name: string, ...settings: string[]): string {
  const path = join(dirname(training), name);
  const columns = ['--features', 'weight,mites'];
  execFileSync(
    process.execPath,
    [SIEVE, 'fit', training, '--target', 'lost', ...columns, '--seed', '1', '--save', path, ...settings],
    {
      stdio: 'pipe',
    },
  );
  return path;
}

beforeAll(async () => {
  stage = await setStage();
  ({ instructor: ada, student: sam } = stage);
  await ada.signUp('Ada Instructor', `${randomUUID()}@test.example`);
  await ada.fill('Name of the course', 'Models');
  await ada.press('Make the course');
  await ada.drop('Import a table', fileWith('colonies.csv', colonies));
  await ada.follow('Colonies');
  await ada.see('600 rows as they came');
  await ada.choose('target', 'lost');
  await ada.find('select[aria-label="positive class"]');
  await ada.choose('identifier', 'colony');
  await ada.press('Save this');
  await ada.see('target lost');
  await ada.follow('Split the rows');
  await ada.press('Save this split');
  await ada.follow('Set an exercise on it');
});
afterAll(() => stage.end());

describe('an exercise that asks for a model', () => {
  it('is composed as one sentence, tried and released', async () => {
    await ada.fill('Title', 'Which will be lost?');
    await ada.press('add a question: a model');
    await ada.press('1 · Hand in your predictions: write in it');
    await ada.press('remove question 1');
    await ada.see('Taken as');
    await ada.choose('metric', 'accuracy');
    await ada.choose('features of the held-out rows', 'kept');
    await ada.press('Try it as a student');
    await ada.see('nothing is saved');
    await ada.see('ONNX (.onnx), PMML (.pmml), a table of coefficients (.csv)');
    expect(await ada.text()).not.toContain('held-out.csv');
    await ada.drop(
      'Hand in a file',
      fileWith('model.csv', 'term,estimate\nmites,1\nweight,-1\n(intercept),20\n'),
    );
    await ada.see('the model says');
    await ada.press('Hand in');
    await ada.see('What “Hand in your model” would come to');
    await ada.see('The model');
    await ada.press('Back to composing');
    await ada.press('Release');
    await ada.see('See what was handed in');
    exercise = ada.path;
    joinCode = await ada.joinCode();
    await ada.open(exercise);
    expect(await ada.barriers()).toEqual([]);
  });

  it('is answered with ONNX, which the browser runs on a few rows before it is sent', async () => {
    await sam.signUp('Sam Student', `${randomUUID()}@test.example`);
    await sam.fill('Code', joinCode);
    await sam.press('Join');
    await sam.open(exercise);
    await sam.see('Hand in your model');
    const files = unzipSync((await sam.fetch(`/api/v1${exercise}/pack`)).bytes);
    expect(Object.keys(files)).not.toContain('held-out.csv');
    training = fileWith('training.csv', files['training.csv'] ?? new Uint8Array());
    await sam.drop('Hand in a file', saved('tree.onnx', '--model', 'tree', '--set', 'depth=4'));
    await sam.see('is read as ONNX');
    await sam.see('Two runs agree');
    await sam.see('the model says');
    await sam.press('Hand in');
    await sam.see('TreeEnsemble');
    await sam.see('On the training rows');
  });

  it('shows which columns a model takes, and takes the student’s word for another one', async () => {
    const path = saved('line.pmml', '--model', 'logistic');
    const renamed = readFileSync(path, 'utf8').replaceAll('"weight"', '"Heaviness"');
    await sam.drop('Hand in a file', fileWith('renamed.pmml', renamed));
    await sam.see('no column is named for the input “Heaviness”');
    await sam.see('Correct this and drop the file again');
    await sam.choose('column for Heaviness', 'weight');
    await sam.see('Every input is a column that it may use');
    expect(await sam.barriers()).toEqual([]);
    await sam.press('Hand in');
    await sam.see('Heaviness as weight');
  });

  it('names what cannot be read, and sends nothing', async () => {
    await sam.drop('Hand in a file', fileWith('bomb.pmml', '<!DOCTYPE a [<!ENTITY b "c">]><PMML>&b;</PMML>'));
    await sam.see('The file has a document type');
    await sam.see('No attempt has been used');
  });

  it('is returned with marks, and its instructor sees what the model is', async () => {
    await ada.follow('See what was handed in');
    await ada.press('Return to students');
    await ada.press('Return to students: yes');
    await ada.see('returned · due');
    await ada.follow('Sam Student');
    await ada.see('The model');
    expect(await ada.barriers()).toEqual([]);
    await sam.open(exercise);
    await sam.see('On the final rows');
    await sam.see('is no evidence of overfitting by itself');
    expect(sam.complaints).toEqual([]);
    expect(ada.complaints).toEqual([]);
  });
});
